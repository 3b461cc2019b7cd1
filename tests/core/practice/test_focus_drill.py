"""The focus drill: a blur as optics have it, other people's eyes, focus told from pointing."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jade_perch.core.kit import Observer
from jade_perch.core.practice.focus_drill import (
    MM_PER_TURN,
    FocusMove,
    FocusState,
    advised_focus,
    begin_focus,
    blur_mm,
    disc_share,
    score_focus,
    sharp_within_mm,
    step_focus,
)

from .desks import demo_desk, desk_with


def play(state, *moves):
    for one in moves:
        state = step_focus(state, one)
    return state


def turn(mm):
    return FocusMove(kind="turn", turns=mm / MM_PER_TURN)


def unlocked(seed=1, desk=None):
    state = begin_focus(desk or demo_desk(), seed)
    return state.model_copy(update={"is_locked": False})


def test_a_mentors_words_end_every_round_without_a_remark():
    for seed in range(200):
        state = begin_focus(demo_desk(), seed)
        for _ in range(60):
            if state.is_over:
                break
            words, told = advised_focus(state)
            assert len(words.split()) <= 15
            state = step_focus(state, told)
        assert state.is_over and state.remarks == (), seed
        assert score_focus(state).is_clean


def test_out_of_focus_a_star_is_as_wide_as_the_way_over_the_focal_ratio():
    """Heron: 140/760, so 5.43 mm out of focus is a disc of 1 mm; the 30 mm shows 35.6 mm."""
    state = unlocked()
    state = state.model_copy(update={"position_mm": state.look.sharp_mm + 760 / 140})
    assert blur_mm(state) == pytest.approx(1.0)
    assert disc_share(state) == pytest.approx(1 / 35.6, rel=0.01)
    # 6 arcmin behind a 30 mm eyepiece is 0.052 mm of blur
    assert sharp_within_mm(state) == pytest.approx(30 * math.radians(0.1) * 760 / 140, rel=1e-3)


@pytest.mark.parametrize(("diopters", "shift_mm"), [(-6, -5.4), (6, 5.4), (0.0, None)])
def test_eyes_that_need_six_dioptres_want_another_focus(diopters, shift_mm):
    """30 mm: 900 x 6 / 1000 = 5.4 mm, inward for short sight; a guest where nobody differs."""
    own = Observer(id=1, name="Ilse")
    other = Observer(id=2, name="Tam", sight_diopters=diopters)
    looks = begin_focus(desk_with(observer=own, everybody=(own, other)), 3).looks
    shift = looks[2].sharp_mm - looks[0].sharp_mm
    if shift_mm is None:
        assert abs(shift) == pytest.approx(5.4) and looks[2].who.startswith("A guest of")
    else:
        assert shift == pytest.approx(shift_mm) and looks[2].who == "Tam"


def test_wrong_way_force_and_haste_are_remarked():
    start = unlocked(4)
    away = math.copysign(1.0, start.position_mm - start.look.sharp_mm)
    twice = play(start, turn(away), turn(away))
    assert [one.of for one in twice.remarks] == ["order"]
    assert play(start, turn(away), turn(-away)).remarks == ()
    locked = start.model_copy(update={"is_locked": True})
    forced = play(locked, turn(1.0))
    assert forced.position_mm == locked.position_mm and forced.remarks[0].of == "gentleness"
    early = play(start, FocusMove(kind="sharp"))
    assert early.stage == 0 and [one.of for one in early.remarks] == ["eye"]
    near = start.model_copy(update={"position_mm": start.look.sharp_mm + 1.0})
    assert [one.of for one in play(near, turn(-8.0)).remarks] == ["gentleness"]


def test_a_focuser_has_its_ends():
    out = play(unlocked(1), turn(50.0), turn(50.0))
    assert out.position_mm == 80 and "at its end" in out.say
    assert play(out, turn(-10.0)).position_mm == 70


@pytest.mark.parametrize("truth", ["focus", "pointing"])
def test_what_is_only_blurred_becomes_a_disc_and_what_is_beside_does_not(truth):
    seeds = (n for n in range(50) if begin_focus(demo_desk(), n).looks[3].question == truth)
    state = unlocked(next(seeds))
    while state.stage < 3:
        state = step_focus(state, advised_focus(state)[1])
    assert disc_share(state) is None
    tried = play(state, turn(-40.0))
    assert (disc_share(tried) is None) == (truth == "pointing")
    wrong = {"focus": "pointing", "pointing": "focus"}[truth]
    told = play(tried, FocusMove(kind="say", answer=wrong))
    assert not told.is_over and told.remarks[-1].of == "eye"
    assert play(told, FocusMove(kind="say", answer=truth)).is_over


@settings(max_examples=40)
@given(
    st.lists(
        st.builds(
            FocusMove,
            kind=st.sampled_from(["turn", "turn", "unlock", "sharp", "say", "ask"]),
            turns=st.floats(-3, 3), answer=st.sampled_from(["focus", "pointing"]),
        ),
        max_size=25,
    ),
    st.integers(0, 999),
)  # fmt: skip
def test_whatever_is_turned_a_disc_is_between_nothing_and_the_field(moves, seed):
    once = play(begin_focus(demo_desk(), seed), *moves)
    share = disc_share(once)
    assert share is None or 0 <= share <= 1
    assert abs(once.position_mm) <= 80
    assert play(begin_focus(demo_desk(), seed), *moves) == once
    assert FocusState.model_validate_json(once.model_dump_json()) == once
