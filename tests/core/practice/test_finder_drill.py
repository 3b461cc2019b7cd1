"""The finder drill: screws that are real, words that always lead to an aligned finder."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jade_perch.core.bench.finderview import parallax_arcmin
from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import Finder
from jade_perch.core.practice.finder_advice import advised_finder, off_arcmin, wanted_arcmin
from jade_perch.core.practice.finder_drill import step_finder
from jade_perch.core.practice.finder_scene import (
    begin_finder,
    mentored,
    scene_of_finder,
    score_finder,
)
from jade_perch.core.practice.ring import TRAVEL_TURNS, ring_of
from jade_perch.core.practice.sighted import FinderMove, FinderState, seen_in, target_from
from jade_perch.core.practice.spiral import spiral_push

from .desks import desk_with

KINDS = [
    ("straight", 3), ("straight", 6), ("right_angle", 3), ("right_angle_correct", 3),
    ("dot", 2), ("ring", 3), ("straight", 4), (None, None),
]  # fmt: skip


def ring(screws):
    return ring_of(Finder(name="Own", screws=screws))


def move(kind, **values):
    return FinderMove(kind=kind, **values)


def play(state, *moves):
    for one in moves:
        state = step_finder(state, one)
    return state


@pytest.mark.parametrize("scenery", ["day", "night"])
@pytest.mark.parametrize(("finder", "screws"), KINDS)
def test_the_benchs_own_advice_ends_aligned_and_without_a_remark(finder, screws, scenery):
    """200 starts and more, over every kind of finder, three mounts, by day and by night."""
    for mount in ("rocker", "altaz", "equatorial"):
        desk = desk_with(mount, finder, screws)
        for seed in range(6):
            state, words = mentored(begin_finder(desk, seed, scenery))
            assert state.is_over, (mount, seed, words[-3:])
            assert state.remarks == (), (mount, seed)
            assert off_arcmin(state) <= wanted_arcmin(state)
            assert all(len(one.split()) <= 15 for one in words)


PUSH = st.floats(-600, 600)
MOVES = st.builds(
    FinderMove,
    kind=st.sampled_from(
        ["look", "choose", "push", "clamp", "unclamp", "screw", "screw", "snug", "middle", "ask",
         "done"]
    ),
    eye=st.sampled_from(["main", "finder", "along"]),
    landmark=st.integers(0, 3), screw=st.integers(0, 2), turns=st.floats(-5, 5),
    right=PUSH, up=PUSH, at_s=st.floats(0, 900),
)  # fmt: skip


@settings(max_examples=40)
@given(st.lists(MOVES, max_size=20), st.integers(0, 9999))
def test_whatever_hands_do_every_screw_holds_back_the_tube(moves, seed):
    def played():
        state = begin_finder(desk_with(), seed)
        for one in moves:
            state = step_finder(state, one)
            tips, centre = np.array(state.tips), state.ring.rests(np.array(state.tips))
            assert (state.ring.toward @ centre <= tips + 1e-6).all()  # no screw goes through it
            assert np.abs(tips).max() <= TRAVEL_TURNS
            scene = scene_of_finder(state)
            assert all(map(math.isfinite, (*scene.view.centre, *state.tube)))
        return state

    once = played()
    assert played().model_dump_json() == once.model_dump_json()
    assert FinderState.model_validate_json(once.model_dump_json()) == once


def test_a_loosened_screw_leaves_play_and_the_others_follow():
    """Three screws 120° apart: one a turn out, the others half a turn in, and it has moved by 1."""
    three, none = ring(3), np.zeros(3)
    out, forced = three.turned(none, 0, 1.0)
    assert forced == 0 and three.play(out) == pytest.approx(2 / math.sqrt(3))
    snug = three.snugged(out, 0)
    assert snug == pytest.approx([1, -0.5, -0.5]) and three.rests(snug) == pytest.approx([0, 1])
    stuck, forced = three.turned(snug, 1, -1.0)
    assert forced == pytest.approx(1) and stuck == pytest.approx(snug)
    # nothing holds it from below any more: it sags onto what is left
    sagging, _ = three.turned(none, 1, 1.0)
    assert three.rests(sagging)[1] < -0.5


def test_four_screws_take_up_what_is_left_each_with_the_one_across():
    four = ring(4)
    out, _ = four.turned(np.zeros(4), 0, 1.0)
    snug = four.snugged(out, 0)
    assert snug == pytest.approx([1, 0, -1, 0]) and four.play(snug) == pytest.approx(0)
    loose = np.array([0.0, 1.5, 0.0, -0.5])  # a turn of play sideways, and none to be kept
    assert four.snugged(loose, 0) == pytest.approx([0, 1, 0, -1])
    assert four.snugged(loose, 1) == pytest.approx([0, 1.5, 0, -1.5])


def test_two_screws_work_against_a_spring_one_each_way():
    two = ring(2)
    tips, forced = two.turned(np.zeros(2), 1, -1.5)
    assert forced == 0 and two.rests(tips) == pytest.approx([-1.5, 0]) and two.play(tips) == 0


def aligned_on(landmark, seed=2):
    """A state whose finder shows a landmark on its mark, the main tube on it."""
    state = begin_finder(desk_with("altaz", "straight", 2), seed)
    state = state.model_copy(update={"chosen": landmark, "tube": (0.0, 0.0), "was_centred": True})
    angles = state.angles
    rest = -angles.parallax_arcmin * angles.side
    update = {"rest": tuple(rest.tolist()), "tips": (0.0, 0.0), "eye": "main"}
    return state.model_copy(update=update)


def test_crossed_on_something_too_near_the_finder_is_off_by_its_parallax_at_night():
    near = aligned_on(0)
    assert seen_in(near, "finder") == pytest.approx([0, 0], abs=1e-9)
    expected = parallax_arcmin(near.finder.axis_offset_mm, near.marks[0].distance_m)
    assert off_arcmin(near) == pytest.approx(expected)
    called = play(near, move("done"))
    assert not called.is_over and "too near" in called.remarks[-1].better
    far = next(n for n, one in enumerate(near.marks) if one.words.startswith("the tower"))
    assert play(aligned_on(far), move("done")).is_over


def test_beside_the_sun_is_told_at_every_look_and_never_called_aligned():
    state = aligned_on(0)
    state = state.model_copy(
        update={"chosen": next(n for n, one in enumerate(state.marks) if one.sun_deg < 30)}
    )
    moves = [move("look", eye="finder"), move("look", eye="main"), move("look", eye="along")]
    state = play(state, *moves, move("done"), move("done"))
    assert not state.is_over
    assert [(one.words, "30°" in one.better) for one in state.remarks] == [
        ("That landmark stands beside the Sun", True)
    ] * 4


def test_a_finder_shows_the_target_where_its_axis_and_the_parallax_leave_it():
    state = begin_finder(desk_with("altaz", "straight", 3), 5)
    angles = state.angles
    off = np.array([30.0, -12.0])
    at = state.model_copy(update={"tube": (5.0, 2.0), "rest": tuple(off), "tips": (0.0, 0.0, 0.0)})
    expected = -np.array([5.0, 2.0]) - off - angles.parallax_arcmin * angles.side
    assert target_from(at, "finder") == pytest.approx(expected)
    assert target_from(at, "main") == pytest.approx([-5, -2])
    # a straight finder turns it about
    assert seen_in(at, "finder") == pytest.approx(-expected / angles.field_radius_arcmin)


def test_wrong_order_and_force_have_their_remarks_and_their_price():
    start = begin_finder(desk_with("altaz", "straight", 3), 4)
    assert start.is_clamped
    forced = play(start, move("push", right=100.0))
    assert [one.of for one in forced.remarks] == ["gentleness"]
    assert forced.tube[0] - start.tube[0] == pytest.approx(10)
    blind = play(start, move("screw", screw=0, turns=1.0))
    assert {one.of for one in blind.remarks} == {"order", "eye"}
    tight = play(start, move("screw", screw=0, turns=-1.0))
    assert any("forced" in one.words for one in tight.remarks)
    loose = play(start, move("unclamp"), move("look", eye="finder"), move("screw", turns=0.5))
    assert any("clamps open" in one.words for one in loose.remarks)
    sun = next(n for n, one in enumerate(start.marks) if one.sun_deg < 30)
    beside = play(start, move("unclamp"), move("choose", landmark=sun))
    assert beside.remarks[-1].words == "That landmark stands beside the Sun"
    assert "30° or more from the Sun" in advised_finder(beside).words
    told = score_finder(blind, start)
    assert not told.is_passed and "first centre it in the main tube" in told.sentences[0]
    assert "a mentor would have needed about" in told.quicker


def test_a_spiral_of_round_fields_leaves_nothing_out():
    """Anything within three fields of the middle is in one of the fields swept by then."""
    at, seen = np.zeros(2), [np.zeros(2)]
    for step in range(120):
        at = at + np.array(spiral_push(step, 1.0))
        seen.append(at)
    places = np.array(seen)
    rng = np.random.default_rng(1)
    for target in rng.uniform(-2, 2, (400, 2)):
        assert np.hypot(*(places - target).T).min() < 0.5


def test_what_is_not_there_is_named():
    start = begin_finder(desk_with(finder="dot"), 1)
    with pytest.raises(OutOfRange, match="screw is 4; allowed is 0 to 1"):
        play(start, move("screw", screw=4, turns=1.0))
    with pytest.raises(OutOfRange, match="a star is aligned on"):
        play(begin_finder(desk_with(), 1, "night"), move("choose", landmark=1))
    with pytest.raises(OutOfRange, match="Put your first telescope on the bench"):
        begin_finder(desk_with(telescope=None), 1)
