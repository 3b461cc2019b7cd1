"""The view disc and its sources: catalogue, moons and rings against other truth."""

import math
from datetime import UTC, datetime

import ephem
import numpy as np
import pytest

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.view import Through, make_disc
from jade_perch.core.kit import Diagonal, Eyepiece, Telescope
from jade_perch.core.optics.ladder import build_ladder
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import catalogue, stars, unit_vectors
from jade_perch.core.sky.planets import jovian_moons, ring_tilt_deg

THINGS = catalogue()
SITE = Site(
    name="Larkstone", latitude_deg=48.7, longitude_deg=8.1, elevation_m=420, zone="Europe/Berlin"
)
NIGHT = datetime(2027, 2, 13, 21, 0, tzinfo=UTC)
LENS = Telescope(id=1, name="L", aperture_mm=100, focal_length_mm=600, design="refractor")
STAR_DIAGONAL = Diagonal(id=1, name="S", kind="mirror")
PRISM = Diagonal(id=2, name="P", kind="correct_image")
WIDE = Eyepiece(id=1, name="W", focal_length_mm=25, apparent_field_deg=60)
SHORT = Eyepiece(id=2, name="S", focal_length_mm=5, apparent_field_deg=60)


def disc(target, *, diagonal=None, eyepiece=WIDE, site=SITE, mode="eyepiece", now=NIGHT):
    viewer = make_viewer(None, site, 3)
    (rung,) = build_ladder(LENS, [eyepiece], [], viewer, diagonal).rungs
    found = THINGS.get(target)
    return make_disc(Through(LENS, diagonal, rung), found, THINGS, site, now, mode)


def turn(one_deg, other_deg):
    return (other_deg - one_deg + 180) % 360 - 180


def test_the_catalogue_holds_what_it_promises():
    assert all(THINGS.find(f"M{n}") for n in range(1, 111))
    numbers, extended = THINGS.numbers, THINGS.has_shape("cluster", "glow")
    assert np.all(numbers["major_arcmin"][extended] >= numbers["minor_arcmin"][extended])
    assert np.all(numbers["minor_arcmin"][extended] > 0)
    table = stars()
    assert 80_000 < len(table.magnitude) < 90_000 and table.magnitude.max() <= 9.0
    assert np.all(np.diff(table.magnitude) >= 0)


@pytest.mark.parametrize(
    ("label", "ra_hours", "dec_deg"),
    [
        ("M31", 0.712, 41.27),
        ("M42", 5.588, -5.39),
        ("M13", 16.695, 36.46),
        ("NGC 5139", 13.446, -47.48),
    ],
)
def test_places_of_showpieces(label, ra_hours, dec_deg):
    thing = THINGS.get(label)
    assert thing.ra_deg / 15 == pytest.approx(ra_hours, abs=0.005)
    assert thing.dec_deg == pytest.approx(dec_deg, abs=0.05)


@pytest.mark.parametrize("moment", ["2027/2/13 20:00", "2030/7/1 03:00", "2025/11/5 23:30"])
def test_moons_of_jupiter_and_rings_of_saturn(moment):
    """Within 0.25 Jupiter radii and 0.1°, against an independent library."""
    when = datetime.strptime(moment, "%Y/%m/%d %H:%M").replace(tzinfo=UTC)
    for moon in jovian_moons(when):
        other = getattr(ephem, moon.name)()
        other.compute(moment)
        assert math.hypot(moon.west_radii, moon.north_radii) == pytest.approx(
            math.hypot(other.x, other.y), abs=0.25
        )
        assert moon.is_in_front == (other.z > 0)
        assert np.sign(moon.west_radii) == -np.sign(other.x) or abs(other.x) < 1
    saturn = ephem.Saturn()
    saturn.compute(moment, epoch="2000")
    place = unit_vectors(np.array(math.degrees(saturn.a_ra)), np.array(math.degrees(saturn.a_dec)))
    assert ring_tilt_deg(place) == pytest.approx(math.degrees(saturn.earth_tilt), abs=0.1)


def test_naked_eye_north_agrees_with_another_library():
    """North leans from the zenith by the parallactic angle."""
    found = disc("Regulus", mode="correct")
    observer = ephem.Observer()
    observer.lat, observer.lon = math.radians(48.7), math.radians(8.1)
    observer.date, observer.pressure = ephem.Date(NIGHT.replace(tzinfo=None)), 0
    star = ephem.star("Regulus")
    star.compute(observer)
    parallactic = math.degrees(star.parallactic_angle())
    # at a hour angle east of the meridian the angle is negative and north leans to the left
    assert turn(90, found.north_deg) == pytest.approx(-parallactic, abs=0.1)


@pytest.mark.parametrize("target", ["M44", "moon", "Polaris", "M31"])
def test_each_glass_turns_and_mirrors_the_same_sky(target):
    naked = disc(target, mode="correct")
    turned, mirrored, upright = (
        disc(target),
        disc(target, diagonal=STAR_DIAGONAL),
        disc(target, diagonal=PRISM),
    )
    assert turn(naked.north_deg, turned.north_deg) == pytest.approx(180, abs=0.01) or turn(
        naked.north_deg, turned.north_deg
    ) == pytest.approx(-180, abs=0.01)
    assert mirrored.north_deg == pytest.approx((180 - naked.north_deg) % 360, abs=0.01)
    assert upright.north_deg == pytest.approx(naked.north_deg, abs=0.01)
    # to the naked eye and in a turned view west stands clockwise of north; mirrored, the other way
    assert turn(turned.north_deg, turned.west_deg) == pytest.approx(-90, abs=0.5)
    assert turn(mirrored.north_deg, mirrored.west_deg) == pytest.approx(90, abs=0.5)


def test_true_scale_and_contents():
    found = disc("M45")
    thing = next(one for one in found.objects if one.is_target)
    assert thing.major == pytest.approx(150 / 60 / found.field_deg, rel=0.01)
    assert len(found.stars) > 8 and all(math.hypot(s.x, s.y) < 1.01 for s in found.stars)
    alcyone = min(found.stars, key=lambda star: star.mag)
    assert math.hypot(alcyone.x, alcyone.y) < 0.01  # 24.105°, 56.87°: in the middle
    moon = disc("moon").bodies[0]
    assert (moon.body, moon.radius) == ("moon", pytest.approx(0.22, abs=0.02))
    saturn = disc("saturn", eyepiece=SHORT, now=datetime(2027, 2, 13, 18, tzinfo=UTC)).bodies[0]
    assert saturn.ring_outer is not None and -9 < saturn.ring_tilt_deg < -7


def test_the_bright_side_of_the_moon_looks_to_the_sun():
    """At dusk of the demo evening the Moon is high in the south, the Sun low in the west."""
    dusk = disc("moon", mode="correct", now=datetime(2027, 2, 13, 16, 30, tzinfo=UTC))
    assert abs(turn(0, dusk.bodies[0].bright_limb_deg)) < 60  # to the right


def test_a_double_star_shows_both_at_true_distance():
    found = disc("Albireo", eyepiece=SHORT)
    albireo = THINGS.get("albireo")
    companion = next(star for star in found.stars if star.name == "Albireo")
    radius_arcsec = found.field_deg * 1800
    assert math.hypot(companion.x, companion.y) * radius_arcsec == pytest.approx(
        albireo.separation_arcsec, abs=0.2
    )
    angle = math.degrees(math.atan2(companion.y, companion.x))
    # in a turned, unmirrored view position angles run counter-clockwise from north
    assert turn(found.north_deg, angle) == pytest.approx(albireo.position_angle_deg, abs=0.5)
    assert "comfortable" in found.words


def test_the_sun_is_never_a_target_and_names_are_unique():
    keys = THINGS.keys
    assert len(keys) == len(set(keys)) and "sun" not in keys
    for wrong in ("sun", "Sun", "nothing", ""):
        with pytest.raises(OutOfRange, match="target"):
            disc(wrong)


def test_without_a_place_north_is_up():
    found = disc("M13", site=None, mode="correct")
    assert found.north_deg == pytest.approx(90, abs=0.01) and found.altitude_deg is None


def test_the_pole_itself_and_every_name_can_be_drawn():
    for key in THINGS.keys:
        found = disc(key)
        assert found.time_to_leave_s > 0 and math.isfinite(found.north_deg)


def test_a_star_behind_the_moon_is_not_drawn():
    """Over a night the Moon moves across the stars near it; none is ever seen through it."""
    for hour in range(17, 24):
        found = disc("moon", now=datetime(2027, 2, 13, hour, tzinfo=UTC))
        (moon,) = found.bodies
        apart = [math.hypot(star.x - moon.x, star.y - moon.y) for star in found.stars]
        assert found.stars and min(apart) >= moon.radius


def test_each_side_of_a_chart_is_named_and_drawn():
    correct, mirrored, turned = (disc("M44", mode=m) for m in ("correct", "mirrored", "turned"))
    assert mirrored.north_deg == pytest.approx((180 - correct.north_deg) % 360, abs=0.01)
    assert turned.west_deg == pytest.approx((correct.west_deg + 180) % 360, abs=0.01)
    assert disc("M44").chart == "turned" and disc("M44", diagonal=PRISM).chart == "correct"
    assert disc("M44", diagonal=STAR_DIAGONAL).chart == "mirrored"
