"""The order of an evening: against trying everything, and what every plan has to keep."""

from datetime import UTC, date, datetime, timedelta
from itertools import pairwise, permutations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jade_perch.core.evening.outlook import Clearest
from jade_perch.core.evening.plan import BREAK, PlanItem, default_start, make_plan, picked
from jade_perch.core.evening.prospects import make_prospects
from jade_perch.core.evening.schedule import MOST_EXACT, Problem, best_order, upper_bound
from jade_perch.core.kit import Mount

from .test_prospects import COMMON, case_of, desk

ROCKER = Mount(id=1, name="R", kind="rocker")
GERMAN = Mount(id=2, name="G", kind="equatorial")
SKY_CASE = case_of(desk())
START = datetime(2027, 2, 13, 19, 30, tzinfo=UTC)


@st.composite
def problems(draw, most=4, times=8):
    count = draw(st.integers(1, most))
    rng = np.random.default_rng(draw(st.integers(0, 2**32 - 1)))
    gain = rng.uniform(0.1, 2.0, (count, times))
    gain[rng.random((count, times)) < 0.35] = -np.inf
    return Problem(gain, rng.integers(1, 4, count), rng.uniform(0, 0.6, (count, count)))


def everything_tried(problem):
    count, times = problem.gain.shape

    def onward(order, n, free, last):
        if n == len(order):
            return 0.0
        k = order[n]
        cost = problem.cost[last, k] if last is not None else 0.0
        tried = [
            problem.gain[k, at] - cost + onward(order, n + 1, at + problem.slots[k], k)
            for at in range(free, times - problem.slots[k] + 1)
        ]
        return max(tried, default=-np.inf)

    orders = (order for size in range(count + 1) for order in permutations(range(count), size))
    return max(onward(order, 0, 0, None) for order in orders)


@settings(max_examples=60)
@given(problems())
def test_the_exact_order_is_the_best_of_all(problem):
    assert best_order(problem).value == pytest.approx(everything_tried(problem), abs=2e-3)


@settings(max_examples=30)
@given(problems(most=20, times=40))
def test_any_order_is_possible_worth_what_it_says_and_under_its_bound(problem):
    found = best_order(problem)
    spans = [
        (at, at + int(problem.slots[n])) for n, at in zip(found.order, found.starts, strict=True)
    ]
    assert len(set(found.order)) == len(found.order)
    assert all(end <= start for (_, end), (start, _) in pairwise(spans))
    assert all(start >= 0 and end <= problem.gain.shape[1] for start, end in spans)
    gains = sum(problem.gain[n, at] for n, at in zip(found.order, found.starts, strict=True))
    costs = sum(problem.cost[a, b] for a, b in pairwise(found.order))
    assert found.value == pytest.approx(gains - costs, abs=1e-6)
    assert found.value <= found.bound + 1e-6 and found.value <= upper_bound(problem) + 2e-3
    assert found.is_exact == (len(problem.slots) <= MOST_EXACT)


def test_nothing_wished_and_no_time_left_are_plans_too():
    empty = Problem(np.zeros((0, 5)), np.zeros(0, dtype=int), np.zeros((0, 0)))
    assert best_order(empty).order == ()
    late = Problem(np.zeros((2, 0)), np.array([1, 1]), np.zeros((2, 2)))
    assert best_order(late).order == ()


def plan_of(*keys, mount=ROCKER, start=START, case=SKY_CASE, **more):
    items = [PlanItem(id=n, target_key=key, **more) for n, key in enumerate(keys, 1)]
    return make_plan(case, items, mount, start, make_prospects(case, desk()))


def starts(plan):
    return {one.label: one.starts_utc for one in plan.blocks if one.kind == "target"}


def test_what_sets_goes_first_and_what_rises_waits():
    found = starts(plan_of("saturn", "m35", "m13"))
    order = sorted(found, key=found.get)
    assert order[0] == "Saturn" and order[-1].startswith("M13")
    assert found["Saturn"] >= START


def test_each_block_is_said_by_what_shows_at_its_own_time():
    plan = plan_of("m31", "m81", "m1", "m35", "m101", "jupiter", "m42", "m44")
    for one in plan.blocks:
        if one.kind == "target":
            assert one.word != "not from here", one.label
            assert one.ends_utc - one.starts_utc == timedelta(minutes=one.minutes)
    times = [(one.starts_utc, one.ends_utc) for one in plan.blocks]
    assert all(end <= start for (_, end), (start, _) in pairwise(times))


def test_a_planet_waits_as_the_list_says_it_does():
    dusk = datetime(2027, 2, 13, 17, 0, tzinfo=UTC)
    case = case_of(desk(now=dusk))
    plan = plan_of("saturn", "neptune", case=case, start=dusk)
    listed = {one.target.label: one for one in case.tonight.sights}
    for label, starts_utc in starts(plan).items():
        assert starts_utc >= listed[label].best_from_utc - timedelta(seconds=1)
    assert len(plan.blocks) == 2


def test_breaks_are_kept_free_after_ninety_minutes():
    keys = ("m31", "m81", "m82", "m1", "m35", "m36", "m37", "m38", "m42", "m44", "m45", "jupiter")
    plan = plan_of(*keys, minutes=15)
    breaks = [one for one in plan.blocks if one.kind == "break"]
    assert breaks and breaks[0].starts_utc == START + timedelta(minutes=90)
    assert breaks[0].ends_utc - breaks[0].starts_utc == BREAK


def test_what_is_pinned_begins_then_and_the_rest_goes_around_it():
    at = START + timedelta(hours=1)
    items = [
        PlanItem(id=1, target_key="m35", minutes=30, pinned_utc=at),
        PlanItem(id=2, target_key="m42"),
        PlanItem(id=3, target_key="m44", is_skipped=True),
    ]
    plan = make_plan(SKY_CASE, items, ROCKER, START, make_prospects(SKY_CASE, desk()))
    assert starts(plan)["M35"] == at and plan.left_out[0].why == "Skipped."
    noon = items[0].model_copy(update={"pinned_utc": datetime(2027, 2, 13, 12, tzinfo=UTC)})
    out = make_plan(SKY_CASE, [noon], ROCKER, START, make_prospects(SKY_CASE, desk()))
    assert not out.blocks and "not show long enough" in out.left_out[0].why


def test_a_gap_in_the_clouds_is_for_what_stands_high_in_the_clearest_hour():
    """The Moon sets at 01:58; Jupiter, in opposition, is up all night; M13 rises late."""
    listed = make_prospects(SKY_CASE, desk())
    late = datetime(2027, 2, 14, 3, tzinfo=UTC)
    hours = [Clearest(hour_utc=at, is_simulated=False) for at in (START, late)]
    now, then = (make_plan(SKY_CASE, [], ROCKER, START, listed, hour) for hour in hours)
    assert (now.reserve_by.hour_utc, then.reserve_by.hour_utc) == (START, late)
    assert "Moon" in now.reserve and "Moon" not in then.reserve
    assert len(now.reserve) == len(then.reserve) == 3
    for plan, at in ((now, START), (then, late)):
        for label in plan.reserve:
            one = next(one for one in listed.prospects if one.target.label == label)
            assert one.from_utc <= at + timedelta(minutes=30) <= one.until_utc


def test_what_never_shows_is_left_out_with_the_reason():
    plan = plan_of("NGC 104", "m35")
    assert [one.label for one in plan.left_out] == ["NGC 104 47 Tuc Cluster"]
    assert "cannot be looked at" in plan.left_out[0].why and plan.words.startswith("The best")


def test_near_the_zenith_a_pushed_mount_waits():
    """M38 goes through 77° here, Capella's neighbour through 86°: only a turned head follows."""
    high = COMMON.model_copy(update={"latitude_deg": 35.9})
    case = case_of(desk(high))
    pushed = plan_of("m38", case=case, start=START).blocks[0]
    turned = plan_of("m38", case=case, start=START, mount=GERMAN).blocks[0]
    entries = case.sky.looks(case.catalogue.row_of("m38"))
    height = dict(
        zip(case.sky.unix_s[case.sky.step[entries]], case.sky.altitude_deg[entries], strict=True)
    )
    assert height[turned.starts_utc.timestamp()] > height[pushed.starts_utc.timestamp()]


def test_more_than_a_dozen_say_how_good_their_order_is():
    keys = [one.target.key for one in make_prospects(SKY_CASE, desk()).prospects
            if one.when != "not tonight"][:30]  # fmt: skip
    plan = plan_of(*keys)
    assert plan.words.startswith("A good order: at least ") and len(plan.blocks) > 15


def test_an_evening_is_filled_with_what_shows_early():
    case = case_of(desk(now=datetime(2027, 2, 13, 16, 10, tzinfo=UTC)))
    start = default_start(case, datetime(2027, 2, 13, 16, 10, tzinfo=UTC))
    assert start == datetime(2027, 2, 13, 17, 0, tzinfo=UTC)  # the Sun no longer counts as up
    keys = picked(make_prospects(case, desk()), start)
    assert 3 <= len(keys) <= 8 and "venus" not in keys
    assert case.night.date == date(2027, 2, 13)
