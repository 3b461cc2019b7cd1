"""What in a typed text keeps it from being a number is named."""

from typing import Annotated

import pytest
from pydantic import TypeAdapter, ValidationError

from jade_perch.core.errors import field_problems
from jade_perch.core.fields import Range
from jade_perch.core.strays import stray

MM = TypeAdapter(Annotated[float, Range(1, 100, "mm", "Type the millimetres.")])
FEET = TypeAdapter(Annotated[int, Range(3, 4, "feet", "Count the feet.")])


@pytest.mark.parametrize(
    ("typed", "found"),
    [
        ("7,5x", "x"),
        ("twenty", "twenty"),
        ("25 stone", "stone"),
        ("1.234,5", ","),
        ("7 5", "5"),
        ("½", "½"),
        ("12..5", "."),
        ("#3", "#"),
        (" 25 ", None),
        ("−3,5", None),
        ("1e2", None),
    ],
)
def test_the_sign_that_is_the_trouble_is_found(typed, found):
    assert stray(typed) == found


def refusal(adapter: TypeAdapter, typed: object) -> str:
    with pytest.raises(ValidationError) as caught:
        adapter.validate_python(typed)
    return field_problems(caught.value.errors())[0].cure


def test_a_refusal_names_it_before_the_cure():
    assert refusal(MM, "25 stone") == "“stone” is the trouble. Type the millimetres."
    assert refusal(FEET, "3.5") == "It is to be a whole number. Count the feet."
    assert refusal(MM, "\ud800") == "“U+D800” is the trouble. Type the millimetres."
    assert refusal(MM, "25\u200b") == "“zero width space” is the trouble. Type the millimetres."


@pytest.mark.parametrize("given", ["", "200", 200, None, [1]])
def test_where_no_sign_is_the_trouble_none_is_named(given):
    assert refusal(MM, given) == "Type the millimetres."
