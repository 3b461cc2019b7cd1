"""Following a target: spherical trigonometry done separately, and what perfect mounts do."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jade_perch.core.bench.budget import (
    SPAN_MIN,
    Reading,
    budget_minutes,
    make_budget,
    minutes_table,
)
from jade_perch.core.bench.tracking import (
    Standing,
    hand_rates_arcmin_per_min,
    horizon_vectors,
    minutes_inside,
    offsets_arcmin,
    sky_after,
    zenith_zone_from_deg,
)
from jade_perch.core.kit import Eyepiece, Telescope
from jade_perch.core.mounts import TRAITS
from jade_perch.core.optics.ladder import build_ladder
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.sky.targets import Placed, Target

OMEGA_DEG = 15.041067 / 60
latitudes = st.floats(-85, 85)


def altaz_of(vectors):
    east, north, up = np.moveaxis(vectors, -1, 0)
    altitude = np.degrees(np.arctan2(up, np.hypot(east, north)))
    return altitude, np.degrees(np.arctan2(east, north)) % 360


def altaz_by_hour_angle(latitude, declination, hour_angle):
    """Meeus ch. 13, azimuth from north through east; scalars, no vectors."""
    phi, delta, h = (math.radians(x) for x in (latitude, declination, hour_angle))
    sine = math.sin(phi) * math.sin(delta) + math.cos(phi) * math.cos(delta) * math.cos(h)
    south = math.atan2(math.sin(h), math.cos(h) * math.sin(phi) - math.tan(delta) * math.cos(phi))
    return math.degrees(math.asin(max(-1, min(1, sine)))), (math.degrees(south) + 180) % 360


@given(latitude=latitudes, declination=st.floats(-80, 80), start=st.floats(-90, 60))
def test_the_sky_turns_as_hour_angles_say(latitude, declination, start):
    altitude, azimuth = altaz_by_hour_angle(latitude, declination, start)
    sky = sky_after(horizon_vectors([altitude], [azimuth]), latitude, np.array([0.0, 60, 170]))
    for minutes, vector in zip((0, 60, 170), sky[0], strict=True):
        expected = altaz_by_hour_angle(latitude, declination, start + OMEGA_DEG * minutes)
        assert vector == pytest.approx(horizon_vectors(*expected), abs=1e-7)


@settings(max_examples=60)
@given(latitude=latitudes, altitude=st.floats(5, 89.5), azimuth=st.floats(0, 360))
def test_perfect_mounts_never_lose_it_even_near_the_zenith(latitude, altitude, azimuth):
    sky = sky_after(horizon_vectors([altitude], [azimuth]), latitude, budget_minutes())
    for drive in ("altaz", "equatorial"):
        off = offsets_arcmin(drive, Standing(), sky, latitude, budget_minutes())
        assert off.max() < 1e-3


@pytest.mark.parametrize("declination", [0.0, 30.0, -20.0])
def test_without_a_drive_it_takes_the_drift_time(declination):
    """Radius 60′ at 15.04′ · cos δ a minute: 4.0 min on the equator."""
    start = horizon_vectors(*altaz_by_hour_angle(48.7, declination, -20))[np.newaxis]
    sky = sky_after(start, 48.7, budget_minutes())
    (stay,) = minutes_table("hand", [Standing()], sky, 48.7, np.array([60.0]))[0]
    assert stay == pytest.approx(60 / (15.041 * math.cos(math.radians(declination))), rel=0.002)


def test_a_polar_axis_off_by_one_degree():
    """A star in the axis's own meridian plane drifts by e · sin(ωt) · … : an exact chord.

    Axis at a, pole at p, e apart; after a turn w a star s sits at R_p(w)·s, the mount at
    R_a(w)·s.  For a star at the pole itself the mount's circle around its own axis has the
    radius e, so the two are 2·sin(e)·sin(w/2) apart.
    """
    pole = horizon_vectors(48.7, 0.0)[np.newaxis]
    sky = sky_after(pole, 48.7, np.array([0.0, 60.0]))
    standing = Standing(pole_altitude_error_deg=1.0)
    off = offsets_arcmin("equatorial", standing, sky, 48.7, np.array([0.0, 60.0]))[0, 1]
    chord = 2 * math.sin(math.radians(1)) * math.sin(math.radians(OMEGA_DEG * 60 / 2))
    assert off == pytest.approx(math.degrees(2 * math.asin(chord / 2)) * 60, abs=1e-3)


def by_altaz(latitude, altitude_rad, azimuth_rad):
    """The inverse, Meeus ch. 13 again: declination and hour angle in degrees."""
    phi, south = math.radians(latitude), azimuth_rad + math.pi
    sine = math.sin(phi) * math.sin(altitude_rad)
    sine -= math.cos(phi) * math.cos(altitude_rad) * math.cos(south)
    hour_angle = math.atan2(
        math.sin(south), math.cos(south) * math.sin(phi) + math.tan(altitude_rad) * math.cos(phi)
    )
    return math.degrees(math.asin(max(-1, min(1, sine)))), math.degrees(hour_angle)


def mount_angles(vector, standing):
    """Altitude and azimuth against a leaning, turned base: dot products with its own axes."""
    lean, low = math.radians(standing.tilt_arcmin / 60), math.radians(standing.low_azimuth_deg)
    toward = np.array([math.sin(low), math.cos(low), 0])
    zenith = math.cos(lean) * np.array([0, 0, 1]) + math.sin(lean) * toward
    turn = math.radians(standing.azimuth_error_deg)
    flat_north = np.array([math.sin(turn), math.cos(turn), 0])
    down = math.cos(lean) * toward - math.sin(lean) * np.array([0, 0, 1])
    aside = np.cross(zenith, down)
    flat_aside = np.array([-math.cos(low), math.sin(low), 0])
    north = (flat_north @ toward) * down + (flat_north @ flat_aside) * aside
    east = np.cross(north, zenith)
    altitude = math.asin(max(-1, min(1, vector @ zenith)))
    return altitude, math.atan2(vector @ east, vector @ north)


@settings(max_examples=60)
@given(
    altitude=st.floats(15, 80), azimuth=st.floats(0, 360), tilt=st.floats(0, 120),
    low=st.floats(0, 360), north=st.floats(-8, 8), minutes=st.floats(5, 60),
)  # fmt: skip
def test_an_altazimuth_mount_on_a_bad_base(altitude, azimuth, tilt, low, north, minutes):
    """It reads its own axes, takes them for the sky's, and moves as a star there would."""
    standing, latitude = Standing(tilt, low, north), 48.7
    start = horizon_vectors([altitude], [azimuth])
    times = np.array([0.0, minutes])
    sky = sky_after(start, latitude, times)
    off = offsets_arcmin("altaz", standing, sky, latitude, times)[0, 1]
    declination, hour_angle = by_altaz(latitude, *mount_angles(start[0], standing))
    believed = altaz_by_hour_angle(latitude, declination, hour_angle + OMEGA_DEG * minutes)
    points_alt, points_az = (math.radians(one) for one in believed)
    real_alt, real_az = mount_angles(sky[0, 1], standing)
    cosine = math.sin(points_alt) * math.sin(real_alt) + math.cos(points_alt) * math.cos(
        real_alt
    ) * math.cos(points_az - real_az)
    assert off == pytest.approx(60 * math.degrees(math.acos(min(1, cosine))), abs=0.05)


def test_a_motor_that_starts_from_a_wrong_north_loses_its_star():
    """5° of north off: a star in the south climbs 15.04′ · cos φ · sin 5° a minute too much."""
    start = horizon_vectors([40.0], [180.0])
    times = np.array([0.0, 1.0])
    sky = sky_after(start, 48.7, times)
    off = offsets_arcmin("altaz", Standing(azimuth_error_deg=5.0), sky, 48.7, times)[0, 1]
    rate = 15.041 * math.cos(math.radians(48.7)) * math.sin(math.radians(5))
    assert off == pytest.approx(rate, rel=0.02)
    told = budget("altaz_motor", north=Reading(value_deg=5.0, is_recorded=True))
    assert told.gains[0].reading == "north" and "north" in told.instruction


@given(latitude=latitudes, altitude=st.floats(5, 70), azimuth=st.floats(0, 360))
def test_rates_by_hand_are_the_slope_of_the_motion(latitude, altitude, azimuth):
    half = np.array([0.0, 0.02])
    (alt0, alt1), (az0, az1) = (
        values[0]
        for values in altaz_of(sky_after(horizon_vectors([altitude], [azimuth]), latitude, half))
    )
    up, across = hand_rates_arcmin_per_min(altitude, azimuth, latitude)
    assert up == pytest.approx((alt1 - alt0) * 60 / 0.02, abs=0.1)
    assert across == pytest.approx(((az1 - az0 + 180) % 360 - 180) * 60 / 0.02, abs=0.1)


def test_the_zenith_zone():
    """At 48.7° an azimuth ten times as fast as the sky begins at 85.9°; at a pole nowhere."""
    edge = zenith_zone_from_deg(48.7, 10)
    _, rate = hand_rates_arcmin_per_min(edge, 180.0, 48.7)
    assert float(rate) == pytest.approx(150.41, abs=0.01)
    assert edge == pytest.approx(85.9, abs=0.1)
    assert zenith_zone_from_deg(90, 10) == 90.0


@given(
    radii=st.lists(st.floats(1, 200), min_size=2, max_size=6),
    slope=st.floats(0.1, 5),
)
def test_a_wider_field_never_loses_it_sooner(radii, slope):
    minutes = budget_minutes()
    stays = minutes_inside((slope * minutes)[np.newaxis], minutes, np.array(sorted(radii)))[0]
    assert np.all(np.diff(np.where(np.isinf(stays), 1e9, stays)) >= -1e-9)
    for radius, stay in zip(sorted(radii), stays, strict=True):
        inside = radius >= slope * SPAN_MIN
        assert np.isinf(stay) if inside else stay == pytest.approx(radius / slope, abs=1e-6)


def budget(kind, **readings):
    tube = Telescope(id=1, name="T", aperture_mm=100, focal_length_mm=1000, design="refractor")
    glass = [
        Eyepiece(id=n, name=f"E{n}", focal_length_mm=mm, apparent_field_deg=50)
        for n, mm in ((1, 25), (2, 10))
    ]
    rungs = build_ladder(tube, glass, [], make_viewer(None, None, 3)).rungs
    places = [
        Placed(target=Target(key="p", label="East", kind="star"), altitude_deg=40, azimuth_deg=100),
        Placed(
            target=Target(key="p", label="South", kind="star"), altitude_deg=60, azimuth_deg=180
        ),
        Placed(
            target=Target(key="p", label="Overhead", kind="star"), altitude_deg=90, azimuth_deg=0
        ),
    ]
    base = {"level": Reading(), "north": Reading(), "pole": Reading()}
    return make_budget(TRAITS[kind].drive, {**base, **readings}, places, rungs, 48.7)


def test_the_costliest_reading_is_named_first_and_doubt_only_shortens():
    north = Reading(value_deg=4.0, doubt_deg=1.0, is_recorded=True)
    level = Reading(value_deg=2 / 60, doubt_deg=2 / 60, toward_deg=90, is_recorded=True)
    told = budget("equatorial", north=north, level=level)
    assert told.gains[0].reading == "north" and "north" in told.instruction
    for target in told.targets:
        for low, nominal in zip(target.worst_minutes, target.minutes, strict=True):
            assert nominal is None or low <= nominal
        assert target.minutes[1] is None or target.minutes[1] <= target.minutes[0]
    hand = budget("rocker")
    assert hand.drive == "hand" and all("every" in one.nudge_words for one in hand.targets)
    assert "From 86° up" in hand.detail  # 85.9
    east = next(one for one in hand.targets if one.label == "East")
    assert "right" in east.nudge_words and "up" in east.nudge_words  # rising stars
