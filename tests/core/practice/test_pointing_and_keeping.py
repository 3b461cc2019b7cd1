"""Bringing a star in and keeping it: arcs, clamps, knobs with play, and the time outside."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jade_perch.core.practice.handling import handled
from jade_perch.core.practice.keep_drill import (
    KeepMove,
    begin_keep,
    gone_on,
    outside_s,
    scene_of_keep,
    score_keep,
    stage_at,
    step_keep,
)
from jade_perch.core.practice.pointing_drill import (
    PointingMove,
    PointingState,
    advised_pointing,
    begin_pointing,
    score_pointing,
    step_pointing,
)

from .desks import desk_with

MOUNTS = ["rocker", "altaz", "altaz_slow_motion", "equatorial", "altaz_motor"]


def play(state, *moves):
    for one in moves:
        state = step_pointing(state, one)
    return state


def move(kind, **values):
    return PointingMove(kind=kind, **values)


@pytest.mark.parametrize("mount", MOUNTS)
def test_a_mentors_words_bring_it_in_with_every_mount_also_in_the_south(mount):
    for latitude in (48.0, -38.0):
        desk = desk_with(mount, latitude_deg=latitude)
        for seed in range(20):
            state = begin_pointing(desk, seed, 180)
            for _ in range(40):
                _, told = advised_pointing(state)
                state = step_pointing(state, told.model_copy(update={"at_s": state.at_s + 4}))
                if state.is_over:
                    break
            assert state.is_over and state.remarks == (), (seed, state.say)
            assert score_pointing(state).is_passed


def test_a_polar_axis_goes_along_the_drift_and_the_other_across_it():
    for latitude in (48.0, -38.0):
        handling = begin_pointing(desk_with("equatorial", latitude_deg=latitude), 3).handling
        west, across = map(np.array, handling.arcs)
        drift = np.array(handling.drift)
        assert west @ drift == pytest.approx(np.hypot(*drift)) and west @ across == pytest.approx(0)
        assert 0 < np.hypot(*drift) <= 15.05  # never faster than the sky
        # targets cross toward the west: to the right facing south, to the left facing north
        assert (drift[0] > 0) == (latitude > 0)


def test_a_clamp_is_opened_first_and_a_knob_wants_it_closed():
    start = begin_pointing(desk_with("equatorial"), 6)
    forced = play(start, move("push", right=300.0))
    assert "closed clamp" in forced.remarks[0].words
    assert math.dist(forced.tube, start.tube) == pytest.approx(30)
    open_ = play(start, move("unclamp"))
    knob = play(open_, move("knob", right=20.0))
    assert knob.tube == open_.tube and "clamps open" in knob.remarks[0].words
    hand = begin_pointing(desk_with("rocker"), 6)
    assert play(hand, move("push", right=300.0)).remarks == ()


def test_a_knob_turned_about_first_takes_up_its_play():
    start = begin_pointing(desk_with("equatorial"), 6)
    there = play(start, move("knob", axis=1, right=30.0))
    back = play(there, move("knob", axis=1, right=-30.0))
    went, came = math.dist(there.tube, start.tube), math.dist(back.tube, there.tube)
    assert went == pytest.approx(30, rel=0.12) and came == pytest.approx(28, rel=0.12)
    assert came < went


def test_looking_into_the_tube_first_and_pushing_past_are_remarked():
    start = play(begin_pointing(desk_with("rocker"), 9), move("look", eye="main"))
    assert [one.of for one in start.remarks] == ["eye"]
    near = start.model_copy(update={"eye": "along", "tube": (-300.0, 0.0), "along_off": (0.0, 0.0)})
    past = play(near, move("push", right=1400.0))
    assert past.remarks[-1].of == "gentleness"
    early = play(start, move("done"))
    assert not early.is_over and "too early" in early.remarks[-1].words


def test_later_than_one_gave_oneself_is_not_passed():
    state = begin_pointing(desk_with("rocker"), 2, 60).model_copy(update={"tube": (0.0, 0.0)})
    over = play(state, move("look", eye="main"), move("done", at_s=61))
    assert not over.is_over or not score_pointing(over).is_passed
    in_time = play(state, move("look", eye="main"), move("done", at_s=20))
    assert in_time.is_over and score_pointing(in_time).is_passed


@settings(max_examples=40)
@given(
    st.lists(
        st.builds(
            PointingMove,
            kind=st.sampled_from(["look", "push", "knob", "clamp", "unclamp", "ask", "done"]),
            eye=st.sampled_from(["main", "finder", "along"]),
            right=st.floats(-3600, 3600), up=st.floats(-3600, 3600),
            axis=st.sampled_from([0, 1]), at_s=st.floats(0, 7200),
        ),
        max_size=20,
    ),
    st.integers(0, 999),
)  # fmt: skip
def test_whatever_hands_do_the_tube_points_somewhere_and_comes_again(moves, seed):
    def played():
        return play(begin_pointing(desk_with("equatorial"), seed), *moves)

    once = played()
    assert all(map(math.isfinite, once.tube))
    assert played() == once == PointingState.model_validate_json(once.model_dump_json())


@settings(max_examples=200)
@given(
    st.tuples(st.floats(-30, 30), st.floats(-30, 30)),
    st.tuples(st.floats(-0.3, 0.3), st.floats(-0.3, 0.3)),
    st.floats(2, 20),
)
def test_the_time_outside_is_what_stepping_through_it_gives(start, moved, radius):
    start, moved = np.array(start), np.array(moved)
    times = np.linspace(0, 120, 24_001)[:-1] + 0.0025
    outside = np.hypot(*(start[:, None] + moved[:, None] * times)) > radius
    expected = outside.mean() * 120
    assert outside_s(start, moved, radius, 120) == pytest.approx(expected, abs=0.02)


@pytest.mark.parametrize("mount", ["rocker", "equatorial"])
def test_bringing_it_back_in_time_keeps_it_and_doing_nothing_does_not(mount):
    for latitude in (48.0, -38.0):
        desk = desk_with(mount, latitude_deg=latitude)
        state = begin_keep(desk, 4)
        while not state.is_over:
            ahead = gone_on(state, min(state.at_s + 3, state.whole_s))
            back = np.array(ahead.handling.arcs) @ np.array(ahead.place)
            axis = int(np.argmax(np.abs(back)))
            due = np.hypot(*ahead.place) > 0.5 * scene_of_keep(ahead).view.radius_arcmin
            kind = "turn" if due else "wait"
            turn = KeepMove(kind=kind, axis=axis, amount=float(back[axis]), at_s=ahead.at_s)
            state = step_keep(state, turn)
        assert score_keep(state).is_passed and state.at_s == 300
        idle = step_keep(begin_keep(desk, 4), KeepMove(kind="wait", at_s=300))
        assert idle.is_over and not score_keep(idle).is_passed


def test_the_power_grows_by_fifths_and_a_wrong_turn_is_told():
    state = begin_keep(desk_with("equatorial"), 1, 60)
    assert [stage_at(state, at) for at in (0, 11.9, 12, 48, 60)] == [0, 0, 1, 4, 4]
    assert list(state.fields_arcmin) == sorted(state.fields_arcmin, reverse=True)
    away = state.model_copy(update={"place": (0.5 * state.fields_arcmin[0], 0.0)})
    arcs = np.array(state.handling.arcs)
    axis = int(np.argmax(np.abs(arcs[:, 0])))
    wrong = -np.sign(arcs[axis, 0]) * 20
    told = step_keep(away, KeepMove(kind="turn", axis=axis, amount=float(wrong)))
    assert [one.of for one in told.remarks] == ["order"]


def test_a_mount_without_a_polar_axis_goes_sideways_and_up():
    handling = handled(desk_with("altaz").known_mount, np.array([10.0, 4.0]))
    assert handling.arcs == ((1.0, 0.0), (0.0, 1.0)) and handling.way_words[0] == ("left", "right")


def test_a_motor_stands_still_while_one_practises_and_that_is_said():
    by_motor, by_hand = begin_keep(desk_with("altaz_motor"), 3), begin_keep(desk_with("altaz"), 3)
    assert "motors stand still" in by_motor.say and "motors" not in by_hand.say
    assert by_motor.handling.drift == by_hand.handling.drift != (0.0, 0.0)
