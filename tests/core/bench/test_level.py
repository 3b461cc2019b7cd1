"""Level: plane geometry done separately, and hands that follow the words from any start."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from jade_perch.core.bench.level import LevelInput, advise_level, foot_raises
from jade_perch.core.bench.vials import ByEye, RoundVial, StraightVials, TwoAxes, read_tilt
from jade_perch.core.kit import Mount
from tests.followers import level_by_rules
from tests.hands import Base, level_it

SCREWED = Mount(name="S", kind="altaz_motor", levelling="screws", screw_pitch_mm=1.5)


def toward(first_deg, count=3):
    around = np.radians(first_deg + np.arange(count) * 360 / count)
    return np.stack([np.sin(around), np.cos(around)], axis=1)


@given(
    first=st.floats(0, 359),
    count=st.sampled_from([3, 4]),
    turn=st.tuples(st.floats(-9, 9), st.floats(-9, 9)),
)
def test_raises_tip_the_plane_as_asked_and_lower_nobody(first, count, turn):
    """The plane through the feet's new tops rises exactly along the turn."""
    feet = toward(first, count)
    raises = foot_raises(np.array(turn), feet)
    assert raises.min() == pytest.approx(0, abs=1e-9)
    slope = np.linalg.lstsq(feet, raises - raises.mean(), rcond=None)[0]
    assert slope == pytest.approx(np.array(turn) * 2 / count, abs=1e-9)


@pytest.mark.parametrize(
    ("feet", "levelling", "kind"),
    [
        (3, "screws", "altaz_motor"),
        (3, "clamps", "equatorial"),
        (3, "none", "altaz_motor"),
        (4, "screws", "altaz_motor"),
    ],
)
def test_any_base_comes_level_by_following_the_words(feet, levelling, kind):
    """Foot circle, vial, thread and numbering unknown; every turn a quarter short or over."""
    rng = np.random.default_rng(20)
    turns = []
    for _ in range(40):
        base = Base(rng, feet, levelling)
        mount = Mount(name="M", kind=kind, feet=feet, levelling=levelling)
        turns.append(level_it(base, level_by_rules(mount)))
        assert turns[-1] is not None
        assert np.hypot(*base.uphill()) < 0.14 + 4 * 0.03  # as near the middle as it is read
    assert np.median(turns) <= 8


def round_vial(divisions, direction, **more):
    return RoundVial(bubble_divisions=divisions, bubble_azimuth_deg=direction, **more)


def test_worked_case_with_turns():
    """Bubble two divisions of 30′ away from foot 1, which is low by one degree.

    Raising one of three feet tips about the other two, 600 mm away: 600 · tan 1° = 10.47 mm, which
    are 6.98 turns of 1.5 mm.
    """
    reading = round_vial(2, 180, sensitivity_arcmin=30)
    given_ = LevelInput(reading=reading, foot_radius_mm=400, screw_pitch_mm=1.5)
    told = advise_level(given_, SCREWED, follower_rounds(given_))
    assert told.tilt.low_azimuth_deg % 360 == pytest.approx(0, abs=1e-9)
    assert (told.next_foot, told.instruction) == (0, "Raise foot 1 by 7 turns.")
    assert told.noted() == "Leans 60′, low toward foot 1."
    assert "The bubble stands between feet 2 and 3." in told.detail


def follower_rounds(given_):
    """One turn that did just what was reckoned, so that nothing is held back any more."""
    before = advise_level(given_.model_copy(update={"reading": round_vial(2.4, 180)}), SCREWED)
    return [before.round_.model_copy(update={"asked": (0.0, 1.4)})]


def test_a_turn_that_made_it_worse_is_turned_the_other_way():
    first = advise_level(LevelInput(reading=round_vial(1.2, 180)), SCREWED)
    assert first.instruction.startswith("Raise foot 1 by ")
    worse = LevelInput(reading=round_vial(2.1, 180))
    told = advise_level(worse, SCREWED, [first.round_])
    assert told.instruction.startswith("The other way: lower foot 1 by ")
    assert told.learned.verdict == "other_way" and "made it worse" in told.detail


def test_a_bubble_that_does_not_move_is_spoken_of():
    rounds, reading = [], LevelInput(reading=round_vial(1.5, 180))
    for _ in range(3):
        told = advise_level(reading, SCREWED, rounds)
        rounds.append(told.round_)
    assert told.learned.unmoved == 2 and "has not moved 2 times" in told.detail
    assert "Tap the vial" in told.detail


def test_at_the_wall_again_and_again_numbers_are_left_aside():
    rounds, reading = [], LevelInput(reading=round_vial(3, 77))
    words = []
    for _ in range(5):
        told = advise_level(reading, SCREWED, rounds)
        rounds.append(told.round_)
        words.append(told.instruction)
    assert "at least" in words[0] and told.tilt.is_at_least
    assert words[4] == "Now screw up the foot farthest from the bubble until it leaves the wall."


def test_one_look_is_enough_where_nothing_is_read_off_the_base():
    looked = LevelInput(reading=ByEye(looks_level=True))
    by_hand = advise_level(looked, Mount(name="Y", kind="yoke"))
    assert by_hand.is_done and by_hand.figures()["tilt_doubt_arcmin"] == 120
    assert not advise_level(looked, SCREWED).is_done  # motors count from a level base
    leans = LevelInput(reading=ByEye(looks_level=False))
    assert not advise_level(leans, Mount(name="Y", kind="yoke")).is_done


def test_without_a_bearing_the_budget_is_told_any_side():
    reading = round_vial(1, 90, sensitivity_arcmin=30)
    unknown = advise_level(LevelInput(reading=reading), SCREWED).figures()
    known = advise_level(
        LevelInput(reading=reading, foot_azimuths_deg=[0, 120, 240]), SCREWED
    ).figures()
    assert (unknown["tilt_arcmin"], unknown["tilt_doubt_arcmin"]) == pytest.approx((0, 36), abs=0.1)
    assert (known["tilt_arcmin"], known["low_azimuth_deg"]) == pytest.approx((30, 270), abs=0.01)


@given(along=st.floats(-3, 3), across=st.floats(-3, 3), turn=st.floats(0, 360))
def test_vials_and_digital_level_agree_about_one_plane(along, across, turn):
    axes = TwoAxes(along_deg=along, across_deg=across, axis_azimuth_deg=turn)
    vials = StraightVials(
        first_divisions=along * 2, second_divisions=across * 2, sensitivity_arcmin=30,
        first_azimuth_deg=turn, second_azimuth_deg=(turn + 90) % 360,
    )  # fmt: skip
    one, other = read_tilt(axes), read_tilt(vials)
    assert one.tilt_arcmin == pytest.approx(other.tilt_arcmin, abs=1e-6)
    exact = math.hypot(math.tan(math.radians(along)), math.tan(math.radians(across)))
    assert one.tilt_arcmin == pytest.approx(60 * math.degrees(math.atan(exact)), abs=1e-6)


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"foot_azimuths_deg": [0, 120]}, "foot_azimuths_deg"),
        ({"foot_azimuths_deg": []}, "foot_azimuths_deg"),
        ({"foot_azimuths_deg": [0, 60, 120]}, "foot_azimuths_deg"),  # all on one side
        ({"foot_azimuths_deg": [0, 10, 180, 250]}, "foot_azimuths_deg"),
        ({"reading": {"kind": "round", "bubble_divisions": 4, "bubble_azimuth_deg": 0}}, "bubble"),
        (
            {"reading": {"kind": "straight", "first_divisions": 1, "second_divisions": 1,
                         "first_azimuth_deg": 10, "second_azimuth_deg": 190}},
            "second_azimuth_deg",
        ),
    ],
)  # fmt: skip
def test_readings_that_cannot_be(change, field):
    good = {
        "reading": {"kind": "round", "bubble_divisions": 1, "bubble_azimuth_deg": 0},
        "foot_azimuths_deg": [0, 120, 240],
    }
    LevelInput.model_validate(good)
    with pytest.raises(ValidationError) as caught:
        LevelInput.model_validate({**good, **change})
    assert field in str(caught.value.errors()[0]["ctx"].get("field"))
