"""The level drill: physics that holds, a bench whose words finish it, remarks that are earned."""

import math
import re

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import Mount
from jade_perch.core.practice.base import (
    LevelMove,
    LevelState,
    bubble_at,
    lean_of,
    slow_s,
    wall_arcmin,
)
from jade_perch.core.practice.level_drill import begin_level, score_level, settled, step_level
from tests.hands import Base, number

FEET = Mount(name="Own", kind="equatorial", levelling="screws", feet=3)
KINDS = [
    ("equatorial", "screws", 3),
    ("altaz", "clamps", 3),
    ("rocker", "none", 3),
    ("altaz_motor", "screws", 4),
    ("ball", "none", 4),
]
MOVES = st.builds(
    LevelMove,
    kind=st.sampled_from(["turn", "turn", "turn", "tap", "ask", "done"]),
    foot=st.integers(1, 3),
    amount=st.floats(-40, 40),
    at_s=st.floats(0, 600),
)


def turn(foot, amount, at_s=0.0):
    return LevelMove(kind="turn", foot=foot, amount=amount, at_s=at_s)


class Told(Base):
    """A drill's base as hands have it that follow the bench's sentence and nothing else."""

    def __init__(self, state):
        self.state, self.order, self.wrong_way = state, [0, 1, 2, 3], 1
        self.count, self.levelling = state.mount.feet, state.mount.levelling

    def _amount(self, words):
        turns = re.search(r"(\d*[⅛¼⅜½⅝¾⅞]|\d+) turns?", words)
        return number(turns[1]) if turns else float(re.search(r"([\d.]+) mm", words)[1])

    def _move(self, foot, amount):
        signed = max(-40.0, min(40.0, self.wrong_way * amount))
        self.state = settled(step_level(self.state, turn(foot + 1, signed)))

    def _until_it_leaves(self):
        for _ in range(60):
            if math.hypot(*self.state.rests) < 0.9:
                return
            angles = np.radians(np.arange(self.count) * 360 / self.count)
            toward = np.stack([np.sin(angles), np.cos(angles)], 1)
            self._move(int(np.argmin(toward @ np.array(self.state.bubble))), 1.0)


@pytest.mark.parametrize(("kind", "levelling", "feet"), KINDS)
def test_the_benchs_own_words_finish_the_drill_from_any_start(kind, levelling, feet):
    for seed in range(40):
        mount = Mount(name="Own", kind=kind, levelling=levelling, feet=feet)
        hands = Told(begin_level(mount, seed))
        for _ in range(25):
            hands.state = step_level(hands.state, LevelMove(kind="ask"))
            if hands.state.say == "Level enough for this mount.":
                break
            hands.follow(hands.state.say)
        over = step_level(hands.state, LevelMove(kind="done"))
        assert over.is_over, (seed, hands.state.say)
        lean = math.hypot(*lean_of(over)) * wall_arcmin(mount)
        assert lean <= max(mount.traits.level_need_arcmin, 0.14 * 90) + 4


@settings(max_examples=60)
@given(st.lists(MOVES, max_size=25), st.integers(0, 10_000))
def test_whatever_is_moved_the_base_stays_one_and_comes_again_from_its_seed(moves, seed):
    def played():
        state = begin_level(FEET, seed)
        for move in moves:
            was = state
            state = step_level(state, move)
            assert math.hypot(*state.bubble) <= 1 + 1e-9 and math.hypot(*state.rests) <= 1 + 1e-9
            assert state.at_s >= was.at_s and all(map(math.isfinite, state.heights_mm))
            changed = [a != b for a, b in zip(was.heights_mm, state.heights_mm, strict=True)]
            assert sum(changed) <= (move.kind == "turn")  # one foot at a time
        return state

    once = played()
    assert played().model_dump_json() == once.model_dump_json()
    assert LevelState.model_validate_json(once.model_dump_json()) == once


def test_a_bubble_nears_its_rest_by_a_factor_e_in_its_own_time():
    state = step_level(settled(begin_level(FEET, 3)), turn(1, 3))
    gap = math.dist(state.bubble, state.rests)
    slow = slow_s(3)
    assert gap > 0.1 and 0.9 <= slow <= 2.4
    for after in (1, 2, 5):
        left = math.dist(bubble_at(state, state.at_s + after * slow), state.rests)
        assert left == pytest.approx(gap * math.exp(-after), rel=1e-9)


def test_one_turn_of_a_foot_tips_the_plane_as_its_circle_and_thread_say():
    """One of three feet rises about the line through the other two, 1.5 radii away."""
    mount = FEET.model_copy(update={"foot_radius_mm": 300, "screw_pitch_mm": 1.5})
    before = settled(begin_level(mount, 5))
    after = step_level(before, turn(1, 2))
    tipped = (lean_of(after) - lean_of(before)) * wall_arcmin(mount)
    expected = math.degrees(math.atan(2 * 1.5 / 450)) * 60
    assert tipped[0] == pytest.approx(0, abs=1e-9)
    assert tipped[1] == pytest.approx(expected, rel=0.16)  # as steady as a hand is


def away_from(state):
    """The foot that lies farthest from the bubble, and the one nearest to it."""
    angles = [math.radians(120 * n) for n in range(3)]
    along = [state.rests[0] * math.sin(a) + state.rests[1] * math.cos(a) for a in angles]
    return along.index(min(along)) + 1, along.index(max(along)) + 1


def test_a_mentor_says_what_was_hasty_wrong_or_too_much():
    start = settled(begin_level(FEET, 11))
    low, high = away_from(start)
    hasty = step_level(step_level(start, turn(low, 3, at_s=5)), turn(low, 0.25, at_s=5.1))
    assert [one.of for one in hasty.remarks] == ["eye"]
    waited = step_level(step_level(start, turn(low, 3, at_s=5)), turn(low, 0.25, at_s=60))
    assert waited.remarks == ()
    wrong = step_level(start, turn(high, 3))
    assert [one.of for one in wrong.remarks] == ["order"]
    far = step_level(start, turn(low, 40))
    assert [one.of for one in far.remarks] == ["gentleness"]
    early = step_level(start, LevelMove(kind="done"))
    assert not early.is_over and "leaned by" in early.remarks[0].words
    told = score_level(far).sentences
    assert "went past the middle: near the middle halve every turn" in told[1]
    assert told[0].startswith("Every turn") and told[2].startswith("You waited")


def test_a_foot_that_is_not_there_is_named():
    with pytest.raises(OutOfRange, match=r"foot is 4; allowed is 1 to 3"):
        step_level(begin_level(FEET, 1), turn(4, 1))
