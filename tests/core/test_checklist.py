"""What is due before an evening."""

from datetime import date

import pytest

from jade_perch.core.kit import Upkeep
from jade_perch.core.upkeep import due_tasks

TODAY = date(2027, 2, 13)
NAMES = {("finder", 1): "Dot", ("light_filter", 1): "Foil"}


def task(**changes):
    base = {"item_kind": "finder", "item_id": 1, "task": "battery", "every_days": 30}
    return Upkeep(**(base | changes))


@pytest.mark.parametrize(
    ("last", "words"),
    [
        (date(2027, 1, 14), "due today"),
        (date(2027, 1, 4), "due for 10 days"),
        (date(2027, 1, 15), None),
        (None, "never noted"),
    ],
)
def test_the_day_it_becomes_due(last, words):
    due = due_tasks([task(last_done=last)], NAMES, TODAY)
    assert [words in one.words for one in due] == ([True] if words else [])


def test_a_solar_filter_comes_first_and_lost_items_are_left_out():
    foil = task(item_kind="light_filter", task="inspection", last_done=date(2027, 1, 10))
    due = due_tasks([task(), foil, task(item_id=7)], NAMES, TODAY)
    assert [one.item_name for one in due] == ["Foil", "Dot"]
