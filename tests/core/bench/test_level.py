"""Level: plane geometry done separately, and a base that every sequence of instructions levels."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from jade_perch.core.bench.advice import MOST_WORDS
from jade_perch.core.bench.level import (
    LevelInput,
    RoundVial,
    StraightVials,
    TwoAxes,
    advise_level,
    read_tilt,
)
from jade_perch.core.kit import Mount
from jade_perch.core.mounts import TRAITS

SCREWED = Mount(name="S", kind="altaz_motor", levelling="screws", screw_pitch_mm=1.5)


class Base:
    """A base on three feet of some height; its plane goes through their tops."""

    def __init__(self, azimuths_deg, radius_mm, heights_mm):
        self.azimuths, self.radius = azimuths_deg, radius_mm
        self.heights = np.array(heights_mm, dtype=float)

    def uphill(self):
        """Slope (east, north) of the plane, from the cross product of two of its edges."""
        around = np.radians(self.azimuths)
        flat = [self.radius * np.sin(around), self.radius * np.cos(around), self.heights]
        tops = np.stack(flat, axis=1)
        normal = np.cross(tops[1] - tops[0], tops[2] - tops[0])
        return -normal[:2] / normal[2]

    def round_vial(self, sensitivity=30.0, most=10.0):
        east, north = self.uphill()
        arcmin = math.degrees(math.atan(math.hypot(east, north))) * 60
        return RoundVial(
            bubble_divisions=min(most, arcmin / sensitivity),
            bubble_azimuth_deg=math.degrees(math.atan2(east, north)) % 360,
            sensitivity_arcmin=sensitivity,
            vial_divisions=most,
        )

    def tilt_arcmin(self):
        return math.degrees(math.atan(math.hypot(*self.uphill()))) * 60


def feet_of(first_deg):
    return [(first_deg + step) % 360 for step in (0, 120, 240)]


heights = st.lists(st.floats(0, 25), min_size=3, max_size=3)


@given(first=st.floats(0, 359), radius=st.floats(100, 800), tops=heights)
def test_raising_every_foot_as_told_levels_any_base(first, radius, tops):
    base = Base(feet_of(first), radius, tops)
    given_ = LevelInput(
        reading=base.round_vial(sensitivity=240), foot_azimuths_deg=base.azimuths,
        foot_radius_mm=radius, screw_pitch_mm=1.5,
    )  # fmt: skip
    told = advise_level(given_, SCREWED)
    raises = np.array([foot.raise_mm for foot in told.feet])
    assert raises.min() == pytest.approx(0, abs=1e-9)  # nobody is lowered
    base.heights += raises
    assert base.tilt_arcmin() < 0.01


@given(first=st.floats(0, 359), tops=heights)
def test_one_foot_at_a_time_and_reading_again_ends_level(first, tops):
    """Hands are coarse: every raise comes out a quarter short or over, and the vial has a wall."""
    base = Base(feet_of(first), 300, tops)
    for n in range(60):
        given_ = LevelInput(
            reading=base.round_vial(sensitivity=20, most=4), foot_azimuths_deg=base.azimuths,
            foot_radius_mm=300, screw_pitch_mm=1.5,
        )  # fmt: skip
        told = advise_level(given_, SCREWED)
        assert len(told.instruction.split()) <= MOST_WORDS
        if told.is_done:
            break
        base.heights[told.next_foot] += told.feet[told.next_foot].raise_mm * (0.75, 1.25)[n % 2]
    assert base.tilt_arcmin() <= TRAITS["altaz_motor"].level_need_arcmin + 0.01


def test_worked_case_with_turns():
    """Bubble two divisions of 30′ to the south: the north is low by one degree."""
    reading = RoundVial(bubble_divisions=2, bubble_azimuth_deg=180, sensitivity_arcmin=30)
    told = advise_level(
        LevelInput(
            reading=reading, foot_azimuths_deg=[0, 120, 240], foot_radius_mm=400,
            screw_pitch_mm=1.5,
        ),
        SCREWED,
    )  # fmt: skip
    assert told.tilt.low_azimuth_deg % 360 == pytest.approx(0, abs=1e-9)
    # 400 mm · tan 1° · (cos 0° − cos 120°) = 10.47 mm = 6.98 turns of 1.5 mm
    assert told.feet[0].raise_mm == pytest.approx(10.47, abs=0.01)
    assert told.instruction == "Raise the north foot 10 mm: 7 turns out. Read again."


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


def test_a_bubble_at_the_wall_says_at_least():
    reading = RoundVial(bubble_divisions=3, bubble_azimuth_deg=90, vial_divisions=3)
    told = advise_level(LevelInput(reading=reading, foot_azimuths_deg=[0, 120, 240]), SCREWED)
    assert told.tilt.is_at_least and "at least" in told.instruction and not told.is_done


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
