"""Every range of every model: its ends are taken, just outside is refused with field and cure."""

import math

import pytest
from pydantic import TypeAdapter, ValidationError

from jade_perch.core.bench.balance import BalanceInput
from jade_perch.core.bench.cooling import Weather
from jade_perch.core.bench.finder import FinderInput
from jade_perch.core.bench.focus import Parfocal
from jade_perch.core.bench.landmark import Landmark
from jade_perch.core.bench.level import RoundVial, StraightVials, TwoAxes
from jade_perch.core.bench.seat import StandInput
from jade_perch.core.bench.solar import ShadowInput
from jade_perch.core.errors import field_problems
from jade_perch.core.fields import Range
from jade_perch.core.records import MODELS as KEPT
from jade_perch.core.site import Site
from jade_perch.standins.instruments import InstrumentSettings

MODELS = (
    *KEPT.values(), Site, StandInput, RoundVial, StraightVials, TwoAxes, BalanceInput, Landmark,
    FinderInput, Parfocal, Weather, ShadowInput, InstrumentSettings,
)  # fmt: skip


def range_of(field):
    """The range of a field, wherever in its type it stands."""
    seen = [field.annotation, *field.metadata]
    while seen:
        one = seen.pop()
        if isinstance(one, Range):
            return one
        if getattr(one, "__origin__", None) is list:
            continue  # a range of what is in it is none of its own
        seen.extend(getattr(one, "__metadata__", ()))
        seen.extend(getattr(one, "__args__", ()))
    return None


RANGED = [
    (model, name, found)
    for model in MODELS
    for name, field in model.model_fields.items()
    if (found := range_of(field)) is not None
]


def problems_with(model, name, value):
    """What a model says of one field, whatever else is missing or does not agree."""
    try:
        model.model_validate({name: value})
    except ValidationError as error:
        return [one for one in field_problems(error.errors()) if one.field == name]
    return []


def test_the_search_finds_the_ranges():
    assert len(RANGED) > 70
    assert {model for model, _, _ in RANGED} == set(MODELS)


@pytest.mark.parametrize(
    ("model", "name", "limits"), RANGED, ids=[f"{m.__name__}.{n}" for m, n, _ in RANGED]
)
def test_ends_are_taken_and_outside_is_explained(model, name, limits):
    whole = "int" in str(model.model_fields[name].annotation).split("Range")[0]
    for end in (limits.low, limits.high):
        said = problems_with(model, name, int(end) if whole else end)
        assert [one for one in said if one.cure == limits.cure] == []
    step = 1 if whole else 1e-6 * max(1.0, abs(limits.high))
    for wrong in (limits.low - step, limits.high + step, "many", math.nan, math.inf, []):
        (problem,) = problems_with(model, name, wrong)
        low, to, high = problem.allowed.split()[:3]
        told = pytest.approx((limits.low, limits.high), rel=1e-5)
        assert (float(low), float(high)) == told and to == "to"
        trouble = "“many” is the trouble. " if wrong == "many" else ""
        assert limits.unit in problem.allowed and problem.cure == trouble + limits.cure
        assert problem.value and problem.detail.startswith(f"{name} is ")


def test_a_published_schema_tells_the_same_limits():
    schema = TypeAdapter(Landmark).json_schema()["properties"]["bearing_deg"]
    schema = next(one for one in schema["anyOf"] if one["type"] == "number")
    assert (schema["minimum"], schema["maximum"]) == (0, 360)
