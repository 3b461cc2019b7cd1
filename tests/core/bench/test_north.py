"""North: published values of the magnetic model, another library for the sky, signs by reason."""

import math
from datetime import UTC, datetime

import ephem
import pytest
from pydantic import ValidationError

from jade_perch.core.bench.magnetic import magnetic_at
from jade_perch.core.bench.north import (
    NorthInput,
    advise_north,
    drift_azimuth_error_deg,
    north_board,
)
from jade_perch.core.bench.skymarks import polaris_at, shadow_at
from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import Mount
from jade_perch.core.site import Site
from tests.guarded import CLEAR

EQUATORIAL = Mount(name="E", kind="equatorial")
NEW_YEAR_2025 = datetime(2025, 1, 1, tzinfo=UTC)
EVENING = datetime(2027, 2, 13, 19, 0, tzinfo=UTC)


def site(latitude, longitude=8.1, zone="UTC"):
    return Site(name="S", latitude_deg=latitude, longitude_deg=longitude, zone=zone)


@pytest.mark.parametrize(
    ("latitude", "longitude", "declination"),
    [(80, 0, 1.28), (0, 120, -0.16), (-80, -120, 68.78)],
)
def test_published_values_of_the_model(latitude, longitude, declination):
    """Declinations of the WMM2025 test table, at sea level on 2025.0."""
    found = magnetic_at(site(latitude, longitude), NEW_YEAR_2025)
    assert found.declination_deg == pytest.approx(declination, abs=0.01)
    assert found.reading_deg == pytest.approx(-declination % 360, abs=0.01)


@pytest.mark.parametrize("year", [2024, 2030, 2051])
def test_the_model_is_not_stretched(year):
    with pytest.raises(OutOfRange, match="2025-01-01 to 2029-12-31"):
        magnetic_at(site(48.7), datetime(year, 6, 1, tzinfo=UTC))
    board = north_board(site(48.7), datetime(year, 6, 1, 12, tzinfo=UTC), EQUATORIAL)
    assert board.magnetic is None and "Polaris" in board.magnetic_words
    assert board.polaris is not None  # every other way still stands


def test_near_the_magnetic_pole_a_compass_is_useless():
    found = magnetic_at(site(86, 140), EVENING)
    assert found.is_useless and "does not work" in found.words
    assert not magnetic_at(site(-38.9, 177.5), EVENING).is_useless


def observer_at(latitude, when, longitude=8.1):
    observer = ephem.Observer()
    observer.lat, observer.lon = math.radians(latitude), math.radians(longitude)
    observer.date, observer.pressure = ephem.Date(when.replace(tzinfo=None)), 0
    return observer


@pytest.mark.parametrize("hour", [0, 5, 11, 17, 23])
@pytest.mark.parametrize("latitude", [12.0, 48.7, 89.0])
def test_polaris_against_another_library(latitude, hour):
    when = datetime(2027, 2, 13, hour, tzinfo=UTC)
    star = ephem.star("Polaris")
    star.compute(observer_at(latitude, when))
    found = polaris_at(site(latitude), when)
    azimuth = (math.degrees(star.az) + 180) % 360 - 180
    across = abs(found.azimuth_offset_deg - azimuth) * math.cos(star.alt)
    assert across == pytest.approx(0, abs=0.02)
    assert found.altitude_deg == pytest.approx(math.degrees(star.alt), abs=0.2)


def test_no_polaris_at_the_equator_and_in_the_south():
    assert polaris_at(site(2.0), EVENING) is None
    south = north_board(site(-38.9, 177.5), EVENING, EQUATORIAL)
    assert south.pole_is_south and south.polaris is None and "star drift" in south.polaris_words
    assert south.latitude_scale_deg == 38.9
    # the axis points south: the compass is steered to 180° less the declination
    expected = 180 - magnetic_at(site(-38.9, 177.5), EVENING).declination_deg
    assert south.magnetic.reading_deg == pytest.approx(expected, abs=1e-9)


@pytest.mark.parametrize("latitude", [48.7, -38.9, 0.0])
def test_the_shadow_and_local_noon_against_another_library(latitude):
    morning = datetime(2027, 2, 13, 9, 0, tzinfo=UTC)
    observer = observer_at(latitude, morning)
    sun = ephem.Sun(observer)
    found = shadow_at(site(latitude), morning)
    assert found.shadow_azimuth_deg == pytest.approx((math.degrees(sun.az) + 180) % 360, abs=0.02)
    noon = observer.next_transit(ephem.Sun()).datetime().replace(tzinfo=UTC)
    assert abs((found.noon_utc - noon).total_seconds()) < 180
    night = shadow_at(site(latitude), datetime(2027, 2, 13, 23, tzinfo=UTC))
    assert night.shadow_azimuth_deg is None and night.noon_utc is not None


def test_no_noon_in_the_polar_night_and_no_shadow_under_a_zenith_sun():
    assert shadow_at(site(80.0), datetime(2027, 12, 21, 11, tzinfo=UTC)).noon_utc is None
    high = shadow_at(site(0.0, 0.0), datetime(2027, 3, 21, 12, 6, tzinfo=UTC))
    assert high.shadow_azimuth_deg is None and "too short" in high.words


@pytest.mark.parametrize("latitude", [20.0, 48.7, 70.0, -38.9])
def test_star_drift_on_the_meridian(latitude):
    """An axis off by e in azimuth lets a meridian star drift by e · cos φ · ωt in declination.

    In the north an axis pointing too far east (the mount turned clockwise) lets it drift south;
    in the south, where the other end points to the pole, turned clockwise it drifts south too.
    """
    minutes, error = 10.0, 0.5
    turned_rad = math.radians(15.041067 / 60 * minutes)
    drift = error * 60 * math.cos(math.radians(latitude)) * math.sin(turned_rad)
    found = drift_azimuth_error_deg(-drift, minutes, latitude)
    assert found == pytest.approx(error, abs=0.01)


def test_a_landmark_and_what_to_turn():
    """The circle shows 88° on something at 90°: the mount's north lies 2° east of true."""
    read = NorthInput(method="landmark", read_deg=88, known_deg=90, scale_deg=48.7)
    told = advise_north(read, site(48.7), EQUATORIAL, EVENING, CLEAR)
    assert told.azimuth_error_deg == pytest.approx(2)
    assert told.instruction.startswith("Turn the whole mount 2.0° counter-clockwise")
    asked = NorthInput(method="compass", near_iron=True)
    iron = advise_north(asked, site(48.7), EQUATORIAL, EVENING, CLEAR)
    assert iron.azimuth_doubt_deg > 5 and "lie" in iron.detail
    asked = NorthInput(method="polaris", scale_deg=44)
    low = advise_north(asked, site(48.7), EQUATORIAL, EVENING, CLEAR)
    assert low.instruction == "Move the altitude scale 4.7° up, then lock it."


def test_what_to_turn_by_compass_polaris_and_shadow():
    """By another library: Polaris's offset, and the shadow opposite the Sun, from the pole."""
    morning = datetime(2027, 2, 13, 9, 0, tzinfo=UTC)
    sun = ephem.Sun(observer_at(48.7, morning))
    right_deg = 180 - math.degrees(sun.az)  # the shadow lies west of north while the Sun is east
    told = advise_north(NorthInput(method="shadow"), site(48.7), EQUATORIAL, morning, CLEAR)
    assert told.instruction.startswith(f"North lies {right_deg:.0f}° right of the shadow")
    assert told.is_done and told.azimuth_error_deg == 0
    south = advise_north(
        NorthInput(method="compass"), site(-38.9, 177.5), EQUATORIAL, EVENING, CLEAR
    )
    reads = 180 - magnetic_at(site(-38.9, 177.5), EVENING).declination_deg
    assert f"until the compass reads {reads:.0f}°" in south.instruction
    off = NorthInput(method="compass", read_deg=(reads + 5) % 360)
    read = advise_north(off, site(-38.9, 177.5), EQUATORIAL, EVENING, CLEAR)
    assert read.azimuth_error_deg == pytest.approx(5) and not read.is_done
    assert read.instruction.startswith("Turn the whole mount 5.0° counter-clockwise")
    star = ephem.star("Polaris")
    star.compute(observer_at(48.7, EVENING))
    off = (math.degrees(star.az) + 180) % 360 - 180
    side = "west" if off > 0 else "east"
    night = advise_north(NorthInput(method="polaris"), site(48.7), EQUATORIAL, EVENING, CLEAR)
    assert f"points {abs(off):.1f}° {side} of Polaris" in night.instruction
    assert "after dusk" in polaris_at(site(48.7), morning).words
    assert "after dusk" not in polaris_at(site(48.7), EVENING).words


@pytest.mark.parametrize(
    ("method", "latitude", "longitude", "year", "why"),
    [
        ("compass", 86.0, 140.0, 2027, "does not work"),
        ("compass", 48.7, 8.1, 2031, "The magnetic model ends there"),
        ("polaris", -38.9, 177.5, 2027, "no bright star marks the pole"),
        ("polaris", 2.0, 8.1, 2027, "too low here"),
        ("shadow", 48.7, 8.1, 2027, "too low for a shadow"),
    ],
)
def test_a_way_that_does_not_work_here_is_not_recorded(method, latitude, longitude, year, why):
    night = datetime(year, 1, 15, 12 if longitude > 100 else 0, tzinfo=UTC)
    with pytest.raises(OutOfRange, match=why):
        advise_north(
            NorthInput(method=method),
            site(latitude, longitude),
            EQUATORIAL,
            night,
            CLEAR,
        )


def test_near_the_magnetic_pole_the_doubt_grows():
    asked = NorthInput(method="compass")
    weak = next(lat for lat in range(60, 90) if magnetic_at(site(lat, -110), EVENING).is_poor)
    assert not magnetic_at(site(weak, -110), EVENING).is_useless
    assert advise_north(asked, site(weak, -110), EQUATORIAL, EVENING, CLEAR).azimuth_doubt_deg == 5
    assert advise_north(asked, site(48.7), EQUATORIAL, EVENING, CLEAR).azimuth_doubt_deg == 1


def test_what_was_not_measured_and_where_azimuth_means_nothing():
    with pytest.raises(ValidationError) as caught:
        NorthInput(method="drift", drift_arcmin=3)
    assert caught.value.errors()[0]["ctx"]["field"] == "drift_minutes"
    with pytest.raises(OutOfRange, match="-89 to 89"):
        drift_azimuth_error_deg(1, 10, 89.5)
    for latitude in (0.0, 89.0, -89.0):
        assert north_board(site(latitude), EVENING, EQUATORIAL).scale_words


@pytest.mark.parametrize(
    ("latitude", "month", "pole"), [(10.0, 6, "south"), (10.0, 12, "north"), (-10.0, 12, "north")]
)
def test_at_noon_between_the_tropics_the_shadow_points_as_the_sun_stands(latitude, month, pole):
    """By another library: north of the zenith at 10° N in June, south of it in December."""
    morning = datetime(2027, month, 21, 8, tzinfo=UTC)
    place = site(latitude, 0.0)
    shadow = shadow_at(place, morning)
    observer = observer_at(latitude, shadow.noon_utc)
    observer.lon = 0
    sun = ephem.Sun(observer)
    is_north = math.degrees(sun.az) < 90 or math.degrees(sun.az) > 270
    assert is_north == (pole == "south")
    too_high = math.degrees(sun.alt) > 75
    assert (shadow.noon_azimuth_deg is None) is too_high
    expected = "too high for a shadow" if too_high else f"it points due {pole}"
    assert expected in shadow.noon_words


def test_a_high_sun_turns_its_shadow_fast_and_the_doubt_says_so():
    low = shadow_at(site(48.7), datetime(2027, 6, 21, 5, tzinfo=UTC))
    high = shadow_at(site(26.0, 0.0), datetime(2027, 6, 21, 11, 3, tzinfo=UTC))
    assert low.doubt_deg == pytest.approx(1.0, abs=0.05)
    assert high.shadow_azimuth_deg is None or high.doubt_deg > 1.2


@pytest.mark.parametrize(("minutes", "doubt"), [(1, 5.8), (10, 0.59), (60, 0.14)])
def test_a_short_drift_says_little(minutes, doubt):
    """One reads to 1′; an axis a degree off drifts 60′ · cos 48.7° · sin(15.04°/h · t)."""
    asked = NorthInput(method="drift", drift_arcmin=0, drift_minutes=minutes)
    told = advise_north(asked, site(48.7), EQUATORIAL, EVENING, CLEAR)
    assert told.azimuth_doubt_deg == pytest.approx(doubt, rel=0.03)
    assert told.is_done is (doubt < 1)
    if minutes == 1:
        assert told.instruction == "So short a drift says little: watch the star for 6 min."
