"""The Moon's face, Jupiter's passages and the calendar, against almanacs and another library."""

import math
from collections import namedtuple
from datetime import UTC, date, datetime, timedelta

import ephem
import numpy as np
import pytest

from jade_perch.core.errors import OutOfRange
from jade_perch.core.site import Site
from jade_perch.core.sky.calendar import dark_calendar
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.sky.ephemeris import INDEX, make_moment
from jade_perch.core.sky.jovian_events import jovian_events
from jade_perch.core.sky.moon import feature_light_deg, make_face, sun_altitude_deg
from jade_perch.core.sky.night import make_night
from jade_perch.core.sky.planets import central_meridians_deg
from jade_perch.core.sky.sunpath import sun_track

from .test_view import along_the_axis, jupiter_at

THINGS = catalogue()
SITE = Site(name="P", latitude_deg=48.7, longitude_deg=8.1, zone="Europe/Berlin")
EQUATOR = Site(name="E", latitude_deg=0, longitude_deg=0, zone="UTC")


def face(site, moment):
    return make_face(THINGS, sun_track(site, moment), moment)


def test_colongitude_and_sun_of_the_published_example():
    """Meeus, Astronomical Algorithms, example 53.a continued: 1992 April 12, 0h TD."""
    found = face(EQUATOR, datetime(1992, 4, 11, 23, 59, 1, tzinfo=UTC))
    assert found.colongitude_deg == pytest.approx(22.11, abs=0.02)
    assert found.subsolar_latitude_deg == pytest.approx(1.46, abs=0.02)


@pytest.mark.parametrize("day", range(0, 700, 61))
def test_libration_agrees_with_another_library_up_to_the_place_on_earth(day):
    """That library looks from the Earth's middle: parallax turns the Moon by up to a degree."""
    moment = datetime(2026, 11, 26, 21, tzinfo=UTC) + timedelta(days=day)
    found, other = face(SITE, moment), ephem.Moon()
    other.compute(ephem.Date(moment.replace(tzinfo=None)))
    assert found.libration_latitude_deg == pytest.approx(math.degrees(other.libration_lat), abs=1.1)
    away = found.libration_longitude_deg - math.degrees(other.libration_long)
    assert abs(away) < 1.2
    turned = (found.colongitude_deg - math.degrees(other.colong) + 180) % 360 - 180
    assert abs(turned) < 0.3
    assert found.lit_percent == pytest.approx(other.phase, abs=1.5)
    new = ephem.previous_new_moon(ephem.Date(moment.replace(tzinfo=None)))
    assert found.age_days == pytest.approx(ephem.Date(moment.replace(tzinfo=None)) - new, abs=1.1)


def test_the_sun_rises_over_the_middle_at_first_quarter():
    assert sun_altitude_deg(np.array(0.0), np.array(0.0), 0.0, 0.0) == pytest.approx(0.0)
    assert sun_altitude_deg(np.array(0.0), np.array(10.0), 0.0, 0.0) == pytest.approx(10.0)
    assert sun_altitude_deg(np.array(0.0), np.array(-90.0), 180.0, 0.0) == pytest.approx(90.0)


def test_low_light_lies_along_the_shadow_line():
    found = face(SITE, datetime(2027, 2, 13, 19, tzinfo=UTC))  # near first quarter
    named = {one.key: one.sun_altitude_deg for one in found.features}
    assert "mare-vaporum" in named and all(0 <= one <= 8 for one in named.values())
    assert feature_light_deg(found, THINGS.get("Crater Langrenus")) > 45  # far in the light
    assert feature_light_deg(found, THINGS.get("Crater Grimaldi")) < -45  # deep in the night
    assert feature_light_deg(found, THINGS.get("M31")) is None


def test_jupiters_meridians_of_the_published_example():
    """Meeus, example 43.a: 1992 December 16, 0h UT; he adds the phase's shift of 0.3°."""
    moment = datetime(1992, 12, 16, tzinfo=UTC)
    track, at = sun_track(EQUATOR, moment), np.array([moment.timestamp()])
    number = INDEX["jupiter"]
    direction = make_moment(moment).to_date.T @ track.directions(at)[number, :, 0]
    distance = float(track.distances_au(at)[number, 0])
    found = central_meridians_deg("jupiter", direction, distance, moment.timestamp())
    assert found["I"] == pytest.approx(268.06, abs=0.5)
    assert found["II"] == pytest.approx(72.74, abs=0.5)
    assert central_meridians_deg("venus", direction, distance, moment.timestamp()) == {}


@pytest.mark.parametrize("day", [date(2027, 2, 13), date(2027, 3, 1), date(2027, 5, 12)])
def test_passages_of_jupiters_moons_agree_with_another_library(day):
    """In the middle of each passage that library has the moon there too; its ends to minutes."""
    checked = 0
    for event in jovian_events(SITE, day):
        if event.starts_utc is None or event.ends_utc is None:
            continue
        middle = event.starts_utc + (event.ends_utc - event.starts_utc) / 2
        for moment, inside in (
            (middle, True),
            (event.starts_utc - timedelta(minutes=8), False),
            (event.ends_utc + timedelta(minutes=8), False),
        ):
            assert passes(event, moment) is inside, (event, moment)
            checked += 1
    assert checked


def passes(event, moment):
    """Whether that library has the moon within the disc, seen from here or from the Sun."""
    direction, _ = jupiter_at(moment)
    west, north, toward_us = along_the_axis(Named(event.moon), moment, direction)
    if event.passage in ("shadow", "eclipse"):
        turn = sun_aside(moment)
        west, toward_us = (
            west * math.cos(turn) - toward_us * math.sin(turn),
            toward_us * math.cos(turn) + west * math.sin(turn),
        )
    in_front = event.passage in ("transit", "shadow")
    return (toward_us > 0) is in_front and math.hypot(west, north / 0.9351) < 1


Named = namedtuple("Named", "name")


def sun_aside(moment):
    """How far the Sun stands aside of us, seen from Jupiter, by ecliptic longitudes."""
    jupiter = ephem.Jupiter()
    jupiter.compute(ephem.Date(moment.replace(tzinfo=None)))
    seen = ephem.Ecliptic(ephem.Equatorial(jupiter.g_ra, jupiter.g_dec))
    return float(jupiter.hlon) - float(seen.lon)


@pytest.mark.parametrize("latitude_deg", [48.7, -38.9, 0.0, 66.0])
def test_the_calendar_counts_the_same_hours_as_each_night(latitude_deg):
    site = SITE.model_copy(update={"latitude_deg": latitude_deg})
    calendar = dark_calendar(site, date(2027, 2, 13), 30)
    for one in calendar.nights[::7]:
        night = make_night(site, one.date)
        for spans, hours in ((night.dark, one.dark_hours), (night.moonless, one.moonless_hours)):
            seconds = sum((s.end_utc - s.start_utc).total_seconds() for s in spans)
            assert hours == pytest.approx(seconds / 3600, abs=0.01), one.date
    best = max(calendar.nights, key=lambda one: one.moonless_hours)
    assert best.is_best
    if abs(latitude_deg) < 50:  # farther north the Moon may stay down for days
        assert best.moon_lit_percent < 35  # new-Moon weeks make the dark calendar


def test_where_it_never_gets_dark_the_calendar_says_so_and_ends_with_the_ephemeris():
    north = SITE.model_copy(update={"latitude_deg": 70.0})
    summer = dark_calendar(north, date(2027, 6, 1), 30)
    assert "No night among these" in summer.best_words
    assert all(one.dark_hours == 0 for one in summer.nights)
    with pytest.raises(OutOfRange, match="2053"):
        dark_calendar(SITE, date(2053, 9, 1))
