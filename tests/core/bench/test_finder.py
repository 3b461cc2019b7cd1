"""Finder: hands that follow its words converge whatever its screws and view; parallax by hand."""

import math

import numpy as np
import pytest

from jade_perch.core.bench.finder import FinderInput, advise_finder
from jade_perch.core.bench.finderview import geometry_of, needed_distance_m, parallax_arcmin
from jade_perch.core.bench.landmark import Landmark
from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import Finder
from jade_perch.core.optics.orientation import finder_orientation
from tests.followers import LONGEST_FIELD_DEG, finder_by_rules
from tests.guarded import CLEAR
from tests.hands import Sighted, align_it

FAR = Landmark(bearing_deg=0, far="valley")


def make_finder(kind="straight", hour=11, screws=None, offset_mm=100.0, **more):
    field = None if kind in ("dot", "ring") else 7
    return Finder(
        id=1, name="F", kind=kind, field_deg=field, offset_mm=offset_mm, clock_hour=hour,
        screws=screws, **more,
    )  # fmt: skip


def advise(finder, rounds=(), landmark=FAR, **said):
    given = FinderInput(finder_id=1, landmark=landmark, **said)
    return advise_finder(given, finder, LONGEST_FIELD_DEG, CLEAR, rounds)


@pytest.mark.parametrize(
    ("kind", "screws"),
    [("dot", 2), ("ring", 3), ("straight", 3), ("right_angle", 3), ("straight", 4),
     ("right_angle_correct", 6)],
)  # fmt: skip
def test_following_the_words_always_converges(kind, screws):
    """Ring at the other end, view turned or mirrored, lever and thread wrong, slack, bumps."""
    rng = np.random.default_rng(31)
    turns = []
    for _ in range(40):
        sighted = Sighted(rng, screws)
        turns.append(align_it(sighted, finder_by_rules(make_finder(kind, screws=screws), FAR)))
        assert turns[-1] is not None
        assert np.hypot(*sighted.at) < 0.1 + 4 * 0.03
    assert np.median(turns) <= 8


def test_a_finder_as_the_kit_says_needs_few_turns():
    """Lever, thread and end measured: what is reckoned is what happens."""
    finder = make_finder(ring_end="front", lever_mm=80, thread_pitch_mm=0.5)
    per_turn = 0.5 / 80 * 180 * 60 / math.pi / (7 * 30)  # of the field's radius
    for start in ((0.6, 0.3), (-0.2, 0.7), (0.1, -0.5)):
        sighted = Sighted(np.random.default_rng(3), view=np.eye(2), is_bumped=False)
        # a ring at the front: the axis goes with the ring, the turned view the same way
        sighted.gain, sighted.slack, sighted.at = per_turn, 0.0, np.array(start)
        assert align_it(sighted, finder_by_rules(finder, FAR)) <= 4


def test_two_screws_end_where_the_mark_belongs():
    """Near, the parallel way is taken by itself, and the words say where the dot is to stand."""
    near = Landmark(bearing_deg=0, far="street")
    far, close = (
        advise(make_finder("dot"), landmark=one, seen_right=0.3, seen_up=0.1) for one in (FAR, near)
    )
    assert far.method == "crossing" and "parallel" not in far.detail.lower()
    assert far.instruction == (
        "Turn one screw until the dot comes nearest the target, then the other."
    )
    assert close.method == "parallel"
    assert "nearest 100 mm " in close.instruction


@pytest.mark.parametrize(
    ("hour", "where"), [(12, "above"), (3, "right of"), (9, "left of"), (6, "below")]
)
def test_the_side_of_a_near_landmark_is_named(hour, where):
    near = Landmark(bearing_deg=0, far="street")
    told = advise(make_finder("dot", hour=hour), landmark=near, seen_right=0.3, seen_up=0.1)
    assert f"100 mm {where} the target" in told.instruction


def test_a_finger_on_a_phone_is_fine_enough():
    """Two pixels beside the mark on a phone: 2 of 150 of the radius; ten pixels are too."""
    for kind in ("dot", "straight"):
        for pixels in (0, 2, 10):
            assert advise(make_finder(kind), seen_right=pixels / 150, seen_up=0).agrees
    # and still what agrees stands in the longest eyepiece's field
    assert (
        geometry_of(make_finder("dot"), None, LONGEST_FIELD_DEG).limit_arcmin
        <= LONGEST_FIELD_DEG * 30 / 2
    )
    assert geometry_of(make_finder("dot"), None, 0.4).limit_arcmin == pytest.approx(6, abs=1e-9)


def test_the_way_back_through_the_main_tube_is_part_of_it():
    on_mark = advise(make_finder(), on_mark=True)
    assert on_mark.agrees and not on_mark.is_done
    assert on_mark.instruction == "Now look through the main tube: is it still in the middle?"
    moved = advise(make_finder(), on_mark=True, main_tube="moved")
    assert not moved.is_done and moved.instruction.startswith("Centre it again in the main tube")
    assert advise(make_finder(), on_mark=True, main_tube="still_there").is_done


def test_what_is_lost_is_turned_back_then_sought_along_the_tube():
    first = advise(make_finder(), seen_right=0.8, seen_up=0)
    lost = advise(make_finder(), [first.round_], trouble="lost")
    assert lost.instruction == "Turn every screw back by as much as you just turned it."
    assert lost.round_.asked == pytest.approx([-part for part in first.round_.asked])
    again = advise(make_finder(), [first.round_, lost.round_], trouble="lost")
    assert again.instruction.startswith("Set its screws to their middle, then sight along it")
    assert advise(make_finder(), trouble="too_dim").instruction.startswith("Shade its window")


def test_the_first_answer_tests_the_sign_and_the_second_knows_it():
    """The target goes the other way: it says so, and the next turn is turned about."""
    finder = make_finder(screws=4)
    first = advise(finder, seen_right=0.3, seen_up=0)
    told = advise(finder, [first.round_], seen_right=0.5, seen_up=0)
    assert told.learned.verdict == "other_way" and "made it worse" in told.detail
    assert np.dot(first.round_.asked, told.round_.asked) < 0


def test_a_turn_that_went_sideways_says_which_screw_it_was_like():
    """Loosening 12 moves a target up or down; it went across, as the screw at 3 would have it."""
    finder = make_finder(screws=4, kind="right_angle_correct", ring_end="front")
    first = advise(finder, seen_right=0, seen_up=0.4)
    assert "Loosen 12 o'clock" in first.instruction
    told = advise(finder, [first.round_], seen_right=-0.35, seen_up=0.4)
    assert told.learned.verdict == "sideways"
    assert "as if the screw at 3 o'clock had been loosened" in told.detail


@pytest.mark.parametrize(("side", "up"), [("up", 1), ("left", -1), ("right", -1)])
def test_a_right_angle_eyepiece_may_look_sideways(side, up):
    """The lens turns everything about; a mirror to the side leaves up and down so."""
    matrix = np.array(finder_orientation("right_angle", side).matrix)
    assert matrix == pytest.approx(np.diag([-up, up]), abs=1e-9)
    correct = np.array(finder_orientation("right_angle_correct", side).matrix)
    assert np.linalg.det(correct) == pytest.approx(1)
    assert np.array(finder_orientation("straight", side).matrix) == pytest.approx(-np.eye(2))


def test_parallax_by_hand():
    """3438 · s/d: 125 mm over 200 m is 2.15′; a tenth of a 2° field's radius wants 71.6 m."""
    assert parallax_arcmin(125, 200) == pytest.approx(3438 * 0.125 / 200, abs=0.01)
    assert needed_distance_m(125, 2.0) == pytest.approx(71.6, abs=0.1)


def test_crossed_axes_are_off_at_night_toward_the_finders_own_side():
    """A finder on top, crossed at 20 m: to the naked eye the star stands above its cross."""
    near = {"landmark": Landmark(bearing_deg=0, distance_m=20), "method": "crossing"}
    said = {**near, "on_mark": True, "main_tube": "still_there"}
    upright = advise(make_finder("right_angle_correct", hour=12), **said)
    assert upright.star_up > 0 and upright.star_right == pytest.approx(0, abs=1e-9)
    assert upright.star_off_arcmin == pytest.approx(17.2, abs=0.1)
    assert "12 o'clock" in upright.star_words and not upright.is_far_enough
    assert upright.agrees and not upright.is_done and "17′ will be left" in upright.instruction
    turned = advise(make_finder("straight", hour=12), **said)
    assert turned.star_up == pytest.approx(-upright.star_up)


def test_a_landmark_outside_the_finders_field_is_refused():
    with pytest.raises(OutOfRange, match=r"more than \d+ m") as caught:
        advise(
            make_finder(offset_mm=400),
            landmark=Landmark(bearing_deg=0, distance_m=5),
            seen_right=0,
            seen_up=0,
        )
    assert caught.value.field == "landmark.distance_m"
