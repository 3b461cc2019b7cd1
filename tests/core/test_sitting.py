"""Presses and the thread: whatever is pressed, in whatever order, one evening stands."""

from datetime import UTC, datetime, timedelta
from itertools import permutations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.plan import Block, Plan
from jade_perch.core.evening.setup import SetupReading, make_steps
from jade_perch.core.eyepiece.coming import Event
from jade_perch.core.eyepiece.sitting import (
    PRESSES,
    Press,
    Sitting,
    Spot,
    dated,
    moment_of,
    pressed,
    used_rungs,
)
from jade_perch.core.eyepiece.thread import DOING, MOST_CHARS, Known, next_block, ready_utc, spin
from jade_perch.core.kit import Mount

from .test_prospects import COMMON, EVENING, make_night

NOW = datetime(2027, 2, 13, 20, 0, tzinfo=UTC)
KINDS = ("point", "put", "focus", "centre", "look", "note")
spots = st.builds(
    Spot,
    target_key=st.sampled_from(["moon", "m42"]),
    kind=st.sampled_from(KINDS),
    rung_key=st.sampled_from(["e1", "e2+a1"]),
    is_down=st.booleans(),
)
moments = st.none() | st.integers(-90_000, 600).map(lambda s: NOW + timedelta(seconds=s))
presses = st.builds(
    Press,
    key=st.uuids().map(str),
    what=st.sampled_from(sorted(PRESSES)),
    made_at_utc=moments,
    spot=st.none() | spots,
    person_id=st.none() | st.integers(1, 3),
    people_ids=st.lists(st.integers(1, 3), max_size=4),
    item=st.sampled_from(["tube-1", "cells"]),
    target_key=st.sampled_from(["moon", "m42"]),
)


def go(kind, minute, target="moon", rung="e1", key=""):
    return Press(
        key=key or f"{kind}{minute}{target}{rung}",
        what="go",
        made_at_utc=NOW - timedelta(minutes=60 - minute),
        spot=Spot(target_key=target, kind=kind, rung_key=rung),
    )


def after(*made, now=NOW, sitting=None):
    sitting = sitting or Sitting()
    for one in made:
        sitting = pressed(sitting, one, now)
    return sitting


@given(st.lists(presses, max_size=25))
def test_any_sequence_of_presses_leaves_a_valid_evening(made):
    sitting = Sitting()
    for n, one in enumerate(made):
        now = NOW + timedelta(seconds=n)
        before, sitting = sitting, pressed(sitting, one, now)
        assert Sitting.model_validate_json(sitting.model_dump_json()) == sitting
        # what was looked at, done or passed is never lost
        assert sitting.looks[: len(before.looks)] == before.looks
        assert sitting.done[: len(before.done)] == before.done
        assert sitting.passed[: len(before.passed)] == before.passed
        assert len(set(sitting.queue)) == len(sitting.queue)
        assert sitting.person_id is None or sitting.person_id not in sitting.queue
        assert len(set(sitting.packed)) == len(sitting.packed)
        for moment in (sitting.since_utc, sitting.centred_at_utc, sitting.closed_at_utc):
            assert moment is None or moment <= now
        if sitting.spot is None:
            assert sitting.centred_at_utc is None
        assert pressed(sitting, one, now).spot == sitting.spot  # told twice it is where it was


@given(st.permutations([go("put", 1), go("look", 5), go("point", 9, "m42"), go("focus", 12)]))
def test_the_last_step_made_wins_in_whatever_order_they_are_told(told):
    sitting = after(*told)
    assert sitting.spot == go("focus", 12).spot
    assert {one.rung_key for one in sitting.looks} == {"e1"}


@given(presses, moments)
def test_a_press_is_never_dated_before_the_one_it_follows_nor_after_now(press, followed_utc):
    made = dated(press, followed_utc, NOW).made_at_utc
    assert moment_of(press, NOW) <= made <= NOW
    if followed_utc is not None and followed_utc <= NOW:
        assert made in (followed_utc, moment_of(press, NOW)) and made >= followed_utc
    else:
        assert made == moment_of(press, NOW)


def test_two_hands_at_once_go_one_step():
    at = go("centre", 10)
    one, other = go("look", 11, key="a"), go("look", 11, key="b")
    assert after(at, one, other) == after(at, one)


def test_a_late_press_moves_nothing_but_what_was_seen_still_counts():
    sitting = after(go("look", 30, "m42", "e2+a1"), go("look", 10, "moon", "e1"))
    assert sitting.spot.target_key == "m42"
    assert used_rungs(sitting) == ["e2+a1", "e1"]
    old = go("look", 30).model_copy(update={"made_at_utc": NOW - timedelta(days=3)})
    assert after(old).since_utc == NOW, "from another day: it counts as made now"


def test_a_clock_set_back_holds_nobody():
    sitting = after(go("look", 60))
    back = NOW - timedelta(hours=2)
    press = Press(key="k", what="go", spot=Spot(target_key="m42", kind="point"))
    moved = pressed(sitting, press, back)
    assert moved.spot.target_key == "m42" and moved.since_utc == back


def test_the_countdown_runs_from_the_middle_and_ends_with_the_rung():
    sitting = after(go("centre", 1), go("look", 2))
    assert sitting.centred_at_utc == NOW - timedelta(minutes=58)
    again = after(Press(key="c", what="centred"), sitting=sitting)
    assert again.centred_at_utc == NOW
    assert after(go("put", 3, rung="e2+a1"), sitting=sitting).centred_at_utc is None
    assert after(go("note", 3), sitting=sitting).centred_at_utc == sitting.centred_at_utc
    assert after(go("note", 3, "m42"), sitting=sitting).centred_at_utc is None


def test_turns_go_round_and_a_closed_evening_opens_with_the_next_step():
    turn = [Press(key=str(n), what="turn", person_id=n) for n in (1, 2, 3)]
    sitting = after(Press(key="q", what="queue", people_ids=[2, 3]), *turn)
    assert sitting.person_id == 3 and sitting.queue == [1, 2]
    closed = after(go("look", 1), Press(key="x", what="close"))
    assert closed.closed_at_utc and closed.spot is None
    assert after(go("look", 59), sitting=closed).closed_at_utc, "made before it was closed"
    later = Press(key="n", what="go", spot=go("point", 0).spot)
    assert pressed(closed, later, NOW + timedelta(minutes=1)).closed_at_utc is None


@pytest.mark.parametrize(("what", "field"), [("done", "target_key"), ("pack", "item")])
def test_a_press_without_its_thing_says_which(what, field):
    with pytest.raises(OutOfRange) as refusal:
        pressed(Sitting(), Press(key="k", what=what), NOW)
    assert refusal.value.problem().field == field


NIGHT = make_night(COMMON, EVENING.date())
KNOBS = Mount(id=1, name="K", kind="altaz_slow_motion")


def reading(step, minute=0, **figures):
    return SetupReading(
        evening_id=1, telescope_id=1, step=step, words="", is_good=True, figures=figures,
        recorded_at_utc=NIGHT.sunset_utc - timedelta(minutes=minute),
        inputs={"out_at_utc": (NIGHT.sunset_utc - timedelta(minutes=20)).isoformat()},
    )  # fmt: skip


ALL_DONE = [reading(name, cool_minutes=45.0) for name in DOING]


def block(label, starts, minutes=10, kind="target"):
    return Block(
        kind=kind, item_id=1, target_key=label.lower(), label=label, starts_utc=starts,
        ends_utc=starts + timedelta(minutes=minutes), minutes=minutes, rung_key=None,
        rung_label="", word="easy", is_pinned=False,
    )  # fmt: skip


def plan(*blocks):
    return Plan(from_utc=NOW, blocks=list(blocks), left_out=[], swaps=0, words="", reserve=[],
                reserve_by=None)  # fmt: skip


def thread(now=NOW, readings=ALL_DONE, made=None, sitting=None, events=(), **more):
    values = {
        "now_utc": now, "zone": "Europe/Berlin", "has_place": True, "has_telescope": True,
        "night": NIGHT, "steps": make_steps(KNOBS, readings), "readings": readings,
        "make_plan": lambda: made, "sitting": sitting or Sitting(), "events": events,
    }  # fmt: skip
    return spin(Known(**{**values, **more}))


def test_the_thread_leads_from_the_bench_to_packing_up():
    begun = Sitting(begun_utc=NOW)
    some = [one for one in ALL_DONE if one.step != "finder"]
    daylight = NIGHT.sunset_utc - timedelta(minutes=35)
    told = thread(daylight, some)
    assert (told.words, told.when) == ("Align the finder", "35 min of daylight left")
    assert told.step == "finder" and told.leads_to == "/setup"
    assert thread(NOW, some, sitting=begun).leads_to != "/setup", "skipped: not called back"
    cooling = thread(NIGHT.sunset_utc, made=plan(block("Moon", NOW)))
    assert cooling.words == "Tube ready" and cooling.when == "18:10"
    ready_at = ready_utc(ALL_DONE)
    assert ready_at - NIGHT.sunset_utc == timedelta(minutes=25)
    ahead = plan(block("Moon", NOW), block("M42", NOW + timedelta(minutes=20)))
    assert thread(made=ahead).words == "Find Moon" and thread(made=ahead).when == "now"
    there = Sitting(begun_utc=NOW, spot=Spot(target_key="moon", kind="look", rung_key="e1"))
    onward = thread(made=ahead, sitting=there)
    assert (onward.words, onward.when) == ("Find M42", "21:20")
    due = Event(kind="break", at_utc=NOW, words="warm up: a break is due", is_due=True)
    assert thread(made=ahead, sitting=there, events=[due]).is_due
    done = Sitting(begun_utc=NOW, done=["moon", "m42"])
    assert thread(made=ahead, sitting=done).leads_to == "/eyepiece?pack=1"
    dark = NIGHT.dark[0].start_utc
    assert thread(dark + timedelta(minutes=119), some).step == "finder"
    assert thread(dark + timedelta(minutes=121), some).step is None, "nobody is sent back so late"
    morning = NIGHT.sunrise_utc + timedelta(minutes=1)
    assert "Pack up" in thread(morning, sitting=begun).words
    assert "over" in thread(morning).words
    assert thread(sitting=Sitting(closed_at_utc=NOW)).leads_to == "/journal"
    assert thread(has_place=False).leads_to == "/plan?tab=place"
    assert thread(has_telescope=False).leads_to == "/kit"
    assert thread(NIGHT.start_utc - timedelta(days=2)).words == "Plan Sat 13 Feb 2027"


def test_the_threads_words_always_fit():
    long = plan(block("A name as long as nobody would ever give to anything", NOW))
    assert len(thread(made=long).words) <= MOST_CHARS
    assert all(len(words) <= MOST_CHARS for words in DOING.values())


def test_the_next_target_is_neither_done_nor_over_nor_a_break():
    warm = block("Warm-up", NOW, kind="break")
    over = block("Old", NOW - timedelta(minutes=30))
    blocks = plan(over, warm, block("Moon", NOW), block("M42", NOW + timedelta(minutes=20)))
    assert next_block(blocks, Sitting(), NOW).label == "Moon"
    assert next_block(blocks, Sitting(done=["moon"]), NOW).label == "M42"
    assert next_block(None, Sitting(), NOW) is None
    for order in permutations(["moon", "m42"]):
        assert next_block(blocks, Sitting(done=list(order)), NOW) is None
