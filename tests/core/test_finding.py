"""The way to a target: from a star that is there, and turned as each finder turns it."""

import math
from datetime import UTC, datetime

import ephem
import pytest

from jade_perch.core.evening.finding import distance_words, make_path
from jade_perch.core.kit import Finder
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.skyline import SkylinePoint

from .test_prospects import COMMON

THINGS = catalogue()
EVENING = datetime(2027, 2, 13, 20, 0, tzinfo=UTC)
STRAIGHT = Finder(name="S", kind="straight", magnification=6, field_deg=7)
RIGHT_ANGLE = Finder(name="R", kind="right_angle", magnification=6, field_deg=7)
CORRECT = Finder(name="C", kind="right_angle_correct", magnification=6, field_deg=7)
DOT = Finder(name="D", kind="dot")


def path(name, *finders, site=COMMON, at=EVENING):
    viewer = make_viewer(None, site, None)
    return make_path(THINGS, site, THINGS.get(name), finders, viewer, at)


def hour(chart):
    return int(chart.words.split(" o'clock")[0].split()[-1])


def separation_deg(one, other):
    places = [(math.radians(t.ra_deg), math.radians(t.dec_deg)) for t in (one, other)]
    return math.degrees(ephem.separation(*places))


@pytest.mark.parametrize("name", ["M35", "M31", "M81", "M1", "NGC 2392"])
def test_it_starts_from_a_bright_star_nearby_and_says_how_far(name):
    found = path(name)
    start = THINGS.get(found.start_label)
    assert start.magnitude <= 3.5 and found.away_deg < 25
    assert found.away_deg == pytest.approx(separation_deg(start, THINGS.get(name)), abs=0.02)
    assert found.start_label in found.charts[0].words


def test_each_finder_turns_the_way_as_it_turns_the_sky():
    """Seen in the same place: straight turns by six hours, a mirror swaps left and right."""
    naked, straight, mirror, right = path("M31", DOT, STRAIGHT, RIGHT_ANGLE, CORRECT).charts[1:]
    assert hour(straight) % 12 == (hour(naked) + 6) % 12
    assert hour(mirror) % 12 == -hour(naked) % 12
    assert hour(right) == hour(naked)


def test_left_of_its_star_is_left_on_the_chart():
    """High in the south toward evening's end what has the larger right ascension stands left."""
    found = path("M44", at=datetime(2027, 2, 13, 23, 0, tzinfo=UTC))
    start, target = THINGS.find(found.start_label), THINGS.get("M44")
    chart = found.charts[0]
    if start is not None and start.ra_deg is not None:
        assert (chart.target_x < chart.start_x) == (target.ra_deg > start.ra_deg)


def test_the_middle_of_a_finder_s_chart_is_the_target_and_the_star_goes_out_of_it():
    chart = path("M35", STRAIGHT).charts[1]
    assert math.hypot(chart.target_x, chart.target_y) < 1e-6
    assert math.hypot(chart.start_x, chart.start_y) > 1  # Elnath is a fist away, the field 7°
    assert "1.5 fields" in chart.words


def test_a_magnifying_finder_shows_stars_that_a_bright_sky_hides():
    city = COMMON.model_copy(update={"dark_sky_class": 8})
    dot, magnifying = path("M35", DOT, STRAIGHT, site=city).charts[1:]
    dark_dot = path("M35", DOT).charts[1]
    assert len(dot.stars) < len(dark_dot.stars) and len(magnifying.stars) > len(dot.stars)


def test_a_star_behind_the_roof_is_no_start():
    usual = path("M35").start_label
    wall = [(0, 0), (60, 0), (61, 90), (359, 90)]
    points = tuple(SkylinePoint(azimuth_deg=a, altitude_deg=h) for a, h in wall)
    walled = COMMON.model_copy(update={"skyline": points})
    found = path("M35", site=walled)
    assert found is None or found.start_label != usual
    shut = COMMON.model_copy(update={"skyline": (SkylinePoint(azimuth_deg=0, altitude_deg=90),)})
    assert path("M35", site=shut) is None


def test_a_bright_star_and_a_planet_are_their_own_start():
    assert "itself" in path("Capella").charts[0].words
    assert path("jupiter").start_label == "Jupiter"


@pytest.mark.parametrize(
    ("away_deg", "words"),
    [(0.5, "less than a finger's width"), (1.7, "a finger's width"), (5.0, "3 fingers"),
     (6.0, "half a fist"), (10.5, "a fist"), (15.0, "a fist and a half"), (20.0, "a spread hand"),
     (30.0, "3 fists")],
)  # fmt: skip
def test_hands_at_arm_s_length(away_deg, words):
    assert distance_words(away_deg) == words
