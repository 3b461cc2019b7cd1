"""Finder: a simulated one converges whatever its kind, screws and faults; parallax by hand."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jade_perch.core.bench.advice import MOST_WORDS, clock_direction
from jade_perch.core.bench.finder import (
    FinderInput,
    advise_finder,
    needed_distance_m,
    parallax_arcmin,
)
from jade_perch.core.bench.landmark import Landmark
from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import Finder
from jade_perch.core.optics.orientation import finder_orientation
from tests.guarded import CLEAR

KINDS = ("straight", "right_angle", "right_angle_correct", "dot", "ring")
FIELD_DEG = 2.0


def make_finder(kind="straight", hour=11, screws=3, offset_mm=100.0):
    power = 1 if kind in ("dot", "ring") else 6
    return Finder(
        id=1, name="F", kind=kind, magnification=power, field_deg=7 if power > 1 else None,
        offset_mm=offset_mm, clock_hour=hour, screws=screws,
    )  # fmt: skip


class Tube:
    """A finder on a tube whose main field holds the landmark: real directions, in radians."""

    def __init__(self, finder, axis_arcmin, distance_m, ring_end):
        self.finder, self.ring_end = finder, ring_end
        self.axis = np.radians(np.array(axis_arcmin) / 60)  # (right, up) against the main axis
        side = np.array(clock_direction(finder.clock_hour))
        self.landmark = -side * finder.offset_mm / 1000 / distance_m  # seen from the finder
        self.radius = math.radians((finder.field_deg or 10) / 2)

    def seen(self):
        matrix = np.array(finder_orientation(self.finder.kind).matrix)
        return matrix @ (self.landmark - self.axis) / self.radius

    def turn(self, screws, pitch_mm, lever_mm, slip):
        """The tube follows its screws: at a rear ring the axis swings the other way."""
        shift = sum(s.turns_out * np.array(clock_direction(s.hour)) for s in screws)
        share = 1.0 if self.finder.screws == 2 else 2 / len(screws)
        swing = share * shift * pitch_mm / lever_mm * slip
        self.axis = self.axis + (swing if self.ring_end == "front" else -swing)

    def star_off_arcmin(self):
        return math.degrees(np.hypot(*self.axis)) * 60


@settings(max_examples=150)
@given(
    kind=st.sampled_from(KINDS),
    screws=st.sampled_from([2, 3, 4, 6]),
    hour=st.integers(1, 12),
    first=st.integers(1, 12),
    end=st.sampled_from(["rear", "front"]),
    off=st.tuples(st.floats(-110, 110), st.floats(-110, 110)),
    slip=st.floats(0.6, 1.4),
    method=st.sampled_from(["crossing", "parallel"]),
)
def test_following_the_screws_always_converges(kind, screws, hour, first, end, off, slip, method):
    finder = make_finder(kind, hour, screws).model_copy(
        update={
            "ring_end": end,
            "first_screw_hour": first,
            "lever_mm": 80.0,
            "thread_pitch_mm": 0.5,
        }
    )
    tube = Tube(finder, off, 400.0, end)
    landmark = Landmark(bearing_deg=0, distance_m=400)
    for _ in range(15):
        right, up = tube.seen()
        asked = FinderInput(
            finder_id=1, landmark=landmark, method=method, seen_right=right, seen_up=up,
        )  # fmt: skip
        told = advise_finder(asked, finder, FIELD_DEG, CLEAR)
        assert len(told.instruction.split()) <= MOST_WORDS
        if told.agrees:
            break
        tube.turn(told.screws, finder.thread_pitch_mm, finder.lever_mm, slip)
    assert told.agrees
    assert told.is_done == (told.star_off_arcmin <= told.limit_arcmin)
    # what was foretold for the first star is what the tube then shows
    assert tube.star_off_arcmin() == pytest.approx(told.star_off_arcmin, abs=0.05)
    if method == "parallel":
        assert tube.star_off_arcmin() <= told.limit_arcmin + 0.05


def test_parallax_by_hand():
    """3438 · s/d: 125 mm over 200 m is 2.15′; a tenth of a 2° field's radius wants 71.6 m."""
    assert parallax_arcmin(125, 200) == pytest.approx(3438 * 0.125 / 200, abs=0.01)
    assert needed_distance_m(125, 2.0) == pytest.approx(71.6, abs=0.1)


def test_crossed_axes_are_off_at_night_toward_the_finders_own_side():
    """A finder on top, crossed at 20 m: to the naked eye the star stands above its cross."""
    near = FinderInput(
        finder_id=1, landmark=Landmark(bearing_deg=0, distance_m=20), seen_right=0, seen_up=0
    )
    upright = advise_finder(near, make_finder("right_angle_correct", hour=12), FIELD_DEG, CLEAR)
    assert upright.star_up > 0 and upright.star_right == pytest.approx(0, abs=1e-9)
    assert upright.star_off_arcmin == pytest.approx(17.2, abs=0.1)
    assert "12 o'clock" in upright.star_words and not upright.is_far_enough
    assert upright.agrees and not upright.is_done and "17′ will be left" in upright.instruction
    turned = advise_finder(near, make_finder("straight", hour=12), FIELD_DEG, CLEAR)
    assert turned.star_up == pytest.approx(-upright.star_up)


def test_a_landmark_outside_the_finders_field_is_refused():
    close = FinderInput(
        finder_id=1,
        landmark=Landmark(bearing_deg=0, distance_m=5),
        method="parallel",
        seen_right=0,
        seen_up=0,
    )
    with pytest.raises(OutOfRange, match=r"more than \d+ m") as caught:
        advise_finder(close, make_finder(offset_mm=400), FIELD_DEG, CLEAR)
    assert caught.value.field == "landmark.distance_m"
