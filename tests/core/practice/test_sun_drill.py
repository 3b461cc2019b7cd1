"""The Sun drill: every round asks what must be known, and nothing but all right passes."""

from datetime import UTC, datetime, timedelta

import pytest

from jade_perch.core.errors import OutOfRange
from jade_perch.core.practice.sun_drill import (
    SunAnswer,
    begin_sun,
    is_still_passed,
    scene_of_sun,
    score_sun,
    step_sun,
)
from jade_perch.core.practice.sun_scenes import ALWAYS, SUN_STEPS
from tests.drilling import right_answer


def play(seed, wrong_at=None):
    state = begin_sun(seed)
    while not state.is_over:
        scene = scene_of_sun(state)
        choice = right_answer(scene.model_dump())
        if scene.scene == wrong_at:
            choice = (choice + 1) % 5
        state = step_sun(state, SunAnswer(choice=choice, scene=scene.scene))
    return state


def test_every_round_asks_what_must_be_known_and_hides_no_second_unsafe_step():
    for seed in range(60):
        state = begin_sun(seed)
        unsafe = [[SUN_STEPS[n] for n in scene if SUN_STEPS[n].why] for scene in state.scenes]
        assert all(len(one) <= 1 for one in unsafe)
        topics = [one[0].topic for one in unsafe if one]
        assert set(ALWAYS) <= set(topics) and len(topics) == len(set(topics)) == 8
        assert sum(not one for one in unsafe) == 2
        for scene in state.scenes:
            words = [SUN_STEPS[n].words for n in scene]
            assert len(set(words)) == 4
    assert len({begin_sun(seed).scenes for seed in range(60)}) == 60


def test_what_is_shown_does_not_say_which_it_is():
    shown = scene_of_sun(begin_sun(4)).model_dump()
    assert shown["judged"] is None and set(shown["steps"][0]) == {"words", "picture"}


@pytest.mark.parametrize("wrong_at", [None, 1, 5, 10])
def test_passed_is_all_of_it_right(wrong_at):
    score = score_sun(play(21, wrong_at))
    assert score.is_passed is (wrong_at is None)
    if wrong_at is not None:
        assert "9 of 10" in score.sentences[0]
        assert [one.number for one in score.replay if one.better] == [wrong_at]


def test_half_a_round_passes_nothing_and_another_scene_is_not_answered():
    state = begin_sun(8)
    assert not score_sun(state).is_passed
    with pytest.raises(OutOfRange, match="scene 1"):
        step_sun(state, SunAnswer(choice=0, scene=3))


def test_a_pass_counts_for_a_year_and_never_ahead_of_its_time():
    passed = datetime(2026, 6, 1, 12, tzinfo=UTC)
    day = timedelta(days=1)
    assert is_still_passed([passed], passed)
    assert is_still_passed([passed], passed + 364 * day)
    assert not is_still_passed([passed], passed + 365 * day)
    assert not is_still_passed([passed], passed - day)
    assert not is_still_passed([], passed)
