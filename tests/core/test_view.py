"""The view disc and its sources: catalogue, moons and rings against other truth."""

import math
from datetime import UTC, date, datetime, timedelta

import ephem
import numpy as np
import pytest

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.view import Through, disc_moment, make_disc
from jade_perch.core.kit import Diagonal, Eyepiece, Telescope
from jade_perch.core.optics.ladder import build_ladder
from jade_perch.core.optics.orientation import telescope_orientation
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import catalogue, stars, unit_vectors
from jade_perch.core.sky.ephemeris import INDEX, make_moment
from jade_perch.core.sky.jovian import jovian_moons
from jade_perch.core.sky.night import make_night
from jade_perch.core.sky.planets import pole_direction, ring_tilt_deg
from jade_perch.core.sky.sunpath import sun_track
from jade_perch.core.sky.targets import Target

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


SEMI_MAJOR_KM = {"Io": 421800, "Europa": 671100, "Ganymede": 1070400, "Callisto": 1882700}


def jupiter_at(when):
    """Where DE421 has Jupiter: direction (ICRS) and distance."""
    track = sun_track(SITE, when)
    at = np.array([when.timestamp()])
    number = INDEX["jupiter"]
    direction = make_moment(when).to_date.T @ track.directions(at)[number, :, 0]
    return direction, float(track.distances_au(at, number)[0])


def along_the_axis(moon, when, direction):
    """Another library's place of a moon (east, south on the sky) turned to Jupiter's axis."""
    other = getattr(ephem, moon.name)()
    other.compute(ephem.Date(when.replace(tzinfo=None)))
    pole = pole_direction("jupiter")
    ra, dec = math.atan2(direction[1], direction[0]), math.asin(direction[2])
    sky_north = np.array(
        [-math.sin(dec) * math.cos(ra), -math.sin(dec) * math.sin(ra), math.cos(dec)]
    )
    sky_east = np.array([-math.sin(ra), math.cos(ra), 0.0])
    axis = math.atan2(pole @ sky_east, pole @ sky_north)
    north = -other.y * math.cos(axis) + other.x * math.sin(axis)
    west = -other.y * math.sin(axis) - other.x * math.cos(axis)
    return west, north, other.z


def test_jupiters_moons_stand_right_to_a_twentieth_of_its_radius():
    """Over forty years against a library with the BDL's theory, which counts in radii that are
    smaller by a common factor; their side of the disc follows from their own inclinations."""
    scale = 1.0025  # of that library's radius: IAU 71492 km against the one it divides by
    for day in range(0, 14600, 197):
        when = datetime(1999, 2, 10, 3, tzinfo=UTC) + timedelta(days=day, minutes=day * 7)
        direction, distance = jupiter_at(when)
        for moon in jovian_moons(when, direction, distance):
            west, north, toward_us = along_the_axis(moon, when, direction)
            off = math.hypot(moon.west_radii - west / scale, moon.north_radii - north / scale)
            assert off < 0.05, (moon, when)
            assert moon.north_radii == pytest.approx(north / scale, abs=0.02)
            if abs(toward_us) > 0.1:  # else it stands at its elongation, neither before nor behind
                assert moon.is_in_front == (toward_us > 0)


def test_their_widest_elongation_is_their_orbit_in_jupiters_radii():
    """Semi-major axes of the JPL over 71 492 km; forty days, eccentricities up to 0.9 %."""
    widest = dict.fromkeys(SEMI_MAJOR_KM, 0.0)
    for day in range(40):
        noon = datetime(2027, 1, 1, 12, tzinfo=UTC) + timedelta(days=day)
        jupiter = jupiter_at(noon)  # it moves by a tenth of a degree a day
        for hours in range(-12, 12, 4):
            for one in jovian_moons(noon + timedelta(hours=hours), *jupiter):
                widest[one.name] = max(widest[one.name], abs(one.west_radii))
    orbits = {name: km / 71492 for name, km in SEMI_MAJOR_KM.items()}
    assert widest == pytest.approx(orbits, rel=0.01)


@pytest.mark.parametrize("moment", ["2027/2/13 20:00", "2030/7/1 03:00", "2025/11/5 23:30"])
def test_rings_of_saturn(moment):
    """Within 0.1°, against an independent library."""
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
    some = [*THINGS.keys[:140], *THINGS.keys[140::61]]  # all of them would take minutes
    for key in some:
        found = disc(key)
        # in a field of 2.5° what stands within 1.25° of the pole goes around and never leaves
        stays = abs(found.declination_deg) >= 90 - found.field_deg / 4
        assert (found.time_to_leave_s is None) is stays, key
        assert math.isfinite(found.north_deg)


def limb(moon, found):
    """The bright limb's direction on the disc, counter-clockwise from west."""
    return turn(found.west_deg, moon.bright_limb_deg)


def test_the_view_turns_with_the_tube_and_everything_in_it_follows():
    """A Newtonian's side focuser at 44.6° up: 180° + 44.6° for an upright head."""
    mirror = LENS.model_copy(update={"design": "newtonian"})
    up, plain = (telescope_orientation(mirror, None, altitude) for altitude in (44.6, 0.0))
    assert (up.turned_deg, plain.turned_deg) == (pytest.approx(224.6), pytest.approx(180))
    assert "Turned clockwise by 135°" in up.words
    viewer = make_viewer(None, SITE, 3)
    (rung,) = build_ladder(mirror, [WIDE], [], viewer).rungs
    through = Through(mirror, None, rung)
    seen = make_disc(through, THINGS.get("moon"), THINGS, SITE, NIGHT)
    chart = make_disc(through, THINGS.get("moon"), THINGS, SITE, NIGHT, "correct")
    expected = 180 + seen.altitude_deg
    for one, other in (
        (chart.north_deg, seen.north_deg),
        (chart.west_deg, seen.west_deg),
        (chart.bodies[0].bright_limb_deg, seen.bodies[0].bright_limb_deg),
    ):
        assert turn(one + expected, other) == pytest.approx(0, abs=0.01)
    assert limb(seen.bodies[0], seen) == pytest.approx(limb(chart.bodies[0], chart), abs=0.01)


@pytest.mark.parametrize("altitude", [0.0, 30.0, 49.0])
def test_a_diagonal_that_points_up_does_not_turn_with_altitude(altitude):
    """In one plane with the head nothing turns: mirrored, upright, at any height."""
    found = telescope_orientation(LENS, STAR_DIAGONAL, altitude)
    assert (found.is_mirrored, round(found.turned_deg) % 360) == (True, 0)
    assert telescope_orientation(LENS, None, altitude).turned_deg == pytest.approx(180)
    side = LENS.model_copy(update={"eyepiece_angle_deg": 90.0})
    level = telescope_orientation(side, STAR_DIAGONAL, 0.0).turned_deg
    tipped = telescope_orientation(side, STAR_DIAGONAL, altitude).turned_deg
    assert abs(turn(level, tipped)) == pytest.approx(altitude, abs=0.01)


def test_an_equatorial_tube_turns_with_the_sky_so_north_stays_where_it_is():
    """Straight through, on an equatorial head the eyepiece's side stays toward the pole: with a
    focuser at the side north keeps its place but for how the head is held."""
    mirror = LENS.model_copy(update={"design": "newtonian", "eyepiece_angle_deg": 0.0})
    viewer = make_viewer(None, SITE, 3)
    (rung,) = build_ladder(mirror, [WIDE], [], viewer).rungs
    for hour in (18, 21, 24):
        now = datetime(2027, 2, 13, tzinfo=UTC) + timedelta(hours=hour)
        seen = [
            make_disc(Through(mirror, None, rung, head), THINGS.get("M42"), THINGS, SITE, now)
            for head in (False, True)
        ]
        chart = make_disc(Through(mirror, None, rung), THINGS.get("M42"), THINGS, SITE, now,
                          "correct")  # fmt: skip
        parallactic = turn(90, chart.north_deg)  # north counter-clockwise from the zenith
        rolled = telescope_orientation(mirror, None, seen[0].altitude_deg, -parallactic)
        turned = seen[1].orientation.turned_deg
        assert turn(rolled.turned_deg, turned) == pytest.approx(0, abs=0.05)
        assert "other side of the mount" in seen[1].mode_words
        if abs(parallactic) > 5:
            assert seen[0].orientation != seen[1].orientation
    # on the meridian the zenith is the pole's side, and nothing is rolled
    meridian = datetime(2027, 2, 13, 19, 29, tzinfo=UTC)
    discs = [
        make_disc(Through(mirror, None, rung, head), THINGS.get("M42"), THINGS, SITE, meridian)
        for head in (False, True)
    ]
    assert turn(discs[0].north_deg, discs[1].north_deg) == pytest.approx(0, abs=2)


def test_the_disc_follows_the_chosen_evening_and_a_wished_moment():
    night = make_night(SITE, date(2027, 2, 13))
    later = make_night(SITE, date(2027, 3, 1))
    assert disc_moment(night, NIGHT, None) == NIGHT
    assert disc_moment(later, NIGHT, None) == later.dark[0].start_utc
    assert disc_moment(night, night.start_utc - timedelta(hours=3), None) < night.start_utc
    wish = NIGHT + timedelta(hours=4)
    assert disc_moment(night, NIGHT, wish) == wish
    with pytest.raises(OutOfRange, match="at_utc"):
        disc_moment(night, NIGHT, NIGHT + timedelta(days=2))


@pytest.mark.parametrize(
    ("separation", "companion", "word"),
    [
        (1.1, 6.0, "closer than this aperture splits"),  # Dawes: 116 / 100 mm = 1.16″
        (2.5, 6.0, "comfortable"),  # 2.5″ · 120 = 300″ over 240″
        (2.5, 7.5, "tight"),  # 1.5 magnitudes: 240 · 1.375 = 330″ are wanted
    ],
)
def test_how_easily_a_pair_is_split(separation, companion, word):
    pair = Target(
        key="p", label="P", kind="double star", ra_deg=90.0, dec_deg=20.0, magnitude=6.0,
        separation_arcsec=separation, companion_mag=companion,
    )  # fmt: skip
    (rung,) = build_ladder(LENS, [SHORT], [], make_viewer(None, SITE, 3)).rungs
    assert word in make_disc(Through(LENS, None, rung), pair, THINGS, SITE, NIGHT).words


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
