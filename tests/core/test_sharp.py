"""Figures a user's answer hangs on, each at the value where the answer turns."""

from datetime import UTC, datetime

import numpy as np
import pytest

from jade_perch.core.bench.balance import BalanceInput, advise_balance
from jade_perch.core.bench.budget import Reading, worst_standings
from jade_perch.core.bench.cooling import cool_down_minutes
from jade_perch.core.bench.instrument import Watch, watch_line
from jade_perch.core.bench.landmark import Landmark
from jade_perch.core.bench.level import LevelInput, advise_level
from jade_perch.core.bench.north import NorthInput, advise_north
from jade_perch.core.bench.seat import StandInput, advise_stand
from jade_perch.core.bench.vials import RoundVial, TwoAxes, read_tilt
from jade_perch.core.evening.interest import places_of_interest
from jade_perch.core.kit import (
    Amplifier,
    Diagonal,
    Eyepiece,
    Mount,
    Observer,
    Telescope,
)
from jade_perch.core.optics.combinations import every_way
from jade_perch.core.optics.ladder import build_ladder, start_rung
from jade_perch.core.optics.orientation import telescope_orientation
from jade_perch.core.optics.table import amplification_of
from jade_perch.core.optics.viewer import make_viewer
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import Entry, make_catalogue
from jade_perch.core.sky.ephemeris import make_moment
from jade_perch.core.sky.night import make_night
from jade_perch.core.sky.sunpath import sun_path
from tests.guarded import CLEAR, check_landmark, line_text

COMMON = Site(name="C", latitude_deg=48.7, longitude_deg=8.1, elevation_m=420, zone="Europe/Berlin")
AFTERNOON = datetime(2027, 2, 13, 14, 0, tzinfo=UTC)
MIRROR = Telescope(
    id=1, name="M", aperture_mm=150, focal_length_mm=1200, design="newtonian",
    obstruction_percent=30,
)  # fmt: skip
LENS = Telescope(id=2, name="L", aperture_mm=100, focal_length_mm=1000, design="refractor")


def rung_of(focal_mm, observer=None, telescope=LENS, amplifiers=()):
    glass = Eyepiece(id=1, name="E", focal_length_mm=focal_mm, apparent_field_deg=50)
    return build_ladder(telescope, [glass], list(amplifiers), make_viewer(observer, None, 3)).rungs


def test_a_compass_bearing_needs_its_doubt_more_of_room():
    """At a bearing that a map allows by half a degree, the compass's degree of doubt refuses."""
    _, altitude, azimuth = sun_path(COMMON, AFTERNOON, datetime.resolution * 60_000_000 * 5)
    for tenth in range(420):
        bearing = (float(azimuth[0]) - tenth / 10) % 360
        by_map = Landmark(bearing_deg=bearing, altitude_deg=0, distance_m=900, job_minutes=5)
        check = check_landmark(COMMON, by_map, AFTERNOON)
        if check.nearest_deg >= 31:
            break
    assert check.nearest_deg == pytest.approx(31, abs=0.2) and altitude[0] > 0
    assert not check.refused
    compass = (bearing - 3.56) % 360  # WMM2025 there: declination +3.6°
    by_compass = by_map.model_copy(update={"bearing_deg": compass, "bearing_by": "compass"})
    told = check_landmark(COMMON, by_compass, AFTERNOON)
    assert told.true_bearing_deg == pytest.approx(bearing, abs=0.2)
    assert told.refused  # the same direction, but a degree less sure
    away = (compass - 1.2) % 360
    assert not check_landmark(
        COMMON, by_compass.model_copy(update={"bearing_deg": away}), AFTERNOON
    ).refused


def test_doubts_reach_the_corners_of_a_budget():
    readings = {
        "level": Reading(value_deg=0.5, doubt_deg=0.1, toward_deg=70, is_recorded=True),
        "north": Reading(value_deg=2.0, doubt_deg=3.0, is_recorded=True),
        "pole": Reading(value_deg=-1.0, doubt_deg=0.5, is_recorded=True),
    }
    corners = worst_standings(readings, "equatorial")
    assert {one.azimuth_error_deg for one in corners} == {-1.0, 5.0}
    assert {one.pole_altitude_error_deg for one in corners} == {-1.5, -0.5}
    assert {(one.tilt_arcmin, one.low_azimuth_deg) for one in corners} == {(36.0, 70)}
    by_polaris = advise_north(NorthInput(method="drift", drift_arcmin=1, drift_minutes=60),
                              COMMON, Mount(name="H", kind="equatorial"), AFTERNOON,
                              CLEAR)  # fmt: skip
    # one arcminute in an hour: 60′ · cos 48.7° · sin 15.04° = 10.28′ a degree, with 0.1° of its own
    assert by_polaris.figures()["azimuth_doubt_deg"] == pytest.approx(
        np.hypot(0.1, 1 / 10.28), abs=0.002
    )


def test_a_path_that_is_only_about_right_makes_the_power_less_sure():
    """67.5 ± 7.5 mm and 70 ± 5 mm: the gain 1.04 is off by √(11² + 7²) %, the factor by 5 %."""
    barlow = Amplifier(id=1, name="B", factor=2)
    glass = Eyepiece(id=1, name="E", focal_length_mm=10, apparent_field_deg=50)
    diagonal = Diagonal(id=1, name="D", light_path_mm=70)
    ways = every_way(LENS, [glass], [barlow], diagonal, ahead=True)
    after, ahead = [one for one, _ in ways if one.amplifiers]
    _, sure = amplification_of(after, diagonal)
    factor, unsure = amplification_of(ahead, diagonal)
    assert (factor, sure) == (pytest.approx(2 + 70 / 67.5, abs=1e-6), pytest.approx(0.05, abs=1e-9))
    gain_off = 70 / 67.5 * np.hypot(7.5 / 67.5, 5 / 70)
    assert unsure == pytest.approx(np.hypot(0.1, gain_off) / factor, abs=1e-6)


@pytest.mark.parametrize(
    ("side", "turned_deg"), [(0.0, 0), (90.0, 0), (-90.0, 0), (35.0, 35), (300.0, 30)]
)
def test_a_roof_prism_shows_the_naked_eyes_view_turned_as_the_head_is(side, turned_deg):
    """Its sky is upright for a head in its own plane; beyond 40° over a head is held upright."""
    turned = LENS.model_copy(update={"eyepiece_angle_deg": side})
    plain = telescope_orientation(turned, Diagonal(name="M", kind="mirror"))
    prism = telescope_orientation(turned, Diagonal(name="P", kind="correct_image"))
    assert plain.is_mirrored and not prism.is_mirrored
    assert prism.turned_deg == pytest.approx(turned_deg, abs=0.01)


def test_of_two_equal_fields_the_plainer_rung_is_begun_with():
    """10 mm of 100°, 20 of 50° and 25 of 40° all show 1.00° in a metre of focal length."""
    glass = [
        Eyepiece(id=n, name="E", focal_length_mm=mm, apparent_field_deg=deg)
        for n, (mm, deg) in enumerate([(10, 100), (25, 40), (20, 50)], 1)
    ]
    ladder = build_ladder(LENS, glass, [], make_viewer(None, None, 3))
    assert {round(rung.true_field_deg, 6) for rung in ladder.rungs} == {1.0}
    assert ladder.start.key == "e2"  # not the first, nor the last, nor the strongest
    amplified = ladder.rungs[0].model_copy(
        update={"key": "e2+a1", "amplifier_ids": [1], "magnification": 30.0}
    )
    assert start_rung([*reversed(ladder.rungs), amplified], 7).key == "e2"  # in whatever order


@pytest.mark.parametrize(("exit_pupil_mm", "keeps"), [(1.99, False), (2.01, True)])
def test_glasses_for_astigmatism_stay_on_in_beams_over_two_millimetres(exit_pupil_mm, keeps):
    observer = Observer(name="A", glasses="astigmatism")
    (rung,) = rung_of(exit_pupil_mm * 10, observer)  # f/10
    assert rung.glasses.startswith("Keep" if keeps else "Take")


@pytest.mark.parametrize(
    ("kind", "enough_arcmin"),
    # as near the middle as it is read is enough: 0.14 of the 90′ to a usual wall
    [("altaz_motor", 12.6), ("equatorial", 15), ("rocker", 60), ("altaz", 60), ("yoke", 60)],
)
def test_how_level_each_mount_has_to_stand(kind, enough_arcmin):
    for arcmin, good in ((enough_arcmin - 0.1, True), (enough_arcmin + 0.1, False)):
        reading = TwoAxes(along_deg=arcmin / 60, across_deg=0)
        given = LevelInput(reading=reading)
        assert advise_level(given, Mount(name="M", kind=kind)).is_done is good
    assert read_tilt(TwoAxes(along_deg=0.5, across_deg=0, noise_arcmin=4)).doubt_arcmin == 4


def test_a_bubble_is_read_to_a_fifth_of_a_division():
    vial = {"kind": "round", "bubble_divisions": 1, "bubble_azimuth_deg": 0}
    given = LevelInput.model_validate(
        {"reading": {**vial, "sensitivity_arcmin": 40}, "foot_azimuths_deg": [0, 120, 240]}
    )
    assert read_tilt(given.reading).doubt_arcmin == pytest.approx(8, abs=1e-9)


def test_a_foot_circle_nobody_measured_is_said_to_be_a_guess():
    """1 mm under one of three feet on a 400 mm circle: 3438 / 600 = 5.7′ of 90′, so 6 %."""
    given = {"reading": TwoAxes(along_deg=1, across_deg=0)}
    mount = Mount(name="M", kind="altaz_motor")
    guessed, measured = (
        advise_level(LevelInput(**given, **more), mount).sums[-1]
        for more in ({}, {"foot_radius_mm": 400})
    )
    assert guessed.result == measured.result == "6 % of the way to the wall"
    assert "as usual" in guessed.worked and "as usual" not in measured.worked
    usual = LevelInput(reading=RoundVial(bubble_divisions=1, bubble_azimuth_deg=0))
    assert "Nobody measured this vial" in advise_level(usual, mount).sums[0].note


def test_a_closed_tube_cools_a_third_longer():
    closed = MIRROR.model_copy(update={"design": "catadioptric"})
    open_min, closed_min = (cool_down_minutes(one, 10) for one in (MIRROR, closed))
    assert (open_min, closed_min) == (pytest.approx(60, abs=0.01), pytest.approx(78, abs=0.01))


@pytest.mark.parametrize(("leap_deg", "state"), [(1.99, "moving"), (2.01, "jumped")])
def test_a_leap_is_more_than_two_degrees(leap_deg, state):
    watch = Watch("compass")
    for seq in range(3):
        watch, _ = watch_line(watch, line_text("compass", seq, bearing_deg=100))
    _, shown = watch_line(watch, line_text("compass", 3, bearing_deg=100 + leap_deg))
    assert shown.state == state


def test_an_unknown_sky_is_taken_for_the_edge_of_a_suburb():
    known = Site(**{**COMMON.model_dump(), "dark_sky_class": 5})
    assert make_viewer(None, COMMON, 3).sky_mpsas == make_viewer(None, known, 3).sky_mpsas == 20.0


def test_showpieces_stand_twenty_degrees_up_and_are_bright_enough():
    """Two made-up clusters on the meridian at dusk, one just high and bright enough."""
    night = make_night(COMMON, datetime(2027, 2, 13, tzinfo=UTC).date())
    at = night.dark[0].start_utc
    on_meridian_deg = (make_moment(at).sidereal_deg + 8.1) % 360

    def cluster(label, altitude_deg, magnitude):
        return Entry(
            label=label, kind="open cluster", magnitude=magnitude, major_arcmin=10,
            minor_arcmin=10, ra_deg=on_meridian_deg, dec_deg=altitude_deg - (90 - 48.7),
        )  # fmt: skip

    things = make_catalogue(
        [cluster("low", 19.0, 5), cluster("high", 21.5, 5), cluster("faint", 50, 6.6),
         cluster("bright", 50, 6.4)]
    )  # fmt: skip
    found = places_of_interest(things, COMMON, night, at, 9)
    assert [one.target.label for one in found] == ["high", "bright"]


@pytest.mark.parametrize(("height_mm", "posture"), [(1276, "stands"), (1274, "sits")])
def test_nobody_stoops_far(height_mm, posture):
    """85 % of 1500 mm is 1275 mm: lower than that one sits."""
    lens = LENS.model_copy(update={"tube_length_mm": 1000, "pivot_from_front_mm": 999.999})
    person = Observer(name="P", eye_height_mm=1500)
    level = StandInput(lowest_altitude_deg=90, highest_altitude_deg=90, pivot_height_mm=height_mm)
    told = advise_stand(level, lens, Mount(name="M"), None, [person])
    assert told.people[0].posture == posture


@pytest.mark.parametrize(("share", "seen"), [(0.69, "by_day"), (0.71, "by_night")])
def test_a_shadow_shows_from_seven_tenths_of_the_eye(share, seen):
    """ε·p against the pupil: 30 % of the beam at f/8 against an eye of 4 mm."""
    observer = Observer(name="E", eye_pupil_mm=4.0)
    (rung,) = rung_of(share * 4.0 / 0.3 * 8, observer, MIRROR)
    assert rung.shadow == seen


def test_an_amplifier_takes_three_percent():
    alone, amplified = (
        rung_of(mm, None, LENS, [Amplifier(id=1, name="A", factor=2)])[n]
        for mm, n in ((10, 0), (20, 1))
    )
    assert amplified.magnification == alone.magnification
    share = amplified.relative_brightness / alone.relative_brightness
    assert share == pytest.approx(0.97, abs=1e-9)


def test_friction_holds_two_millimetres():
    tube = MIRROR.model_copy(update={"mass_kg": 5.0})
    for grams, still in ((19, True), (21, False)):
        given = BalanceInput(extra_g=grams, behind_pivot_mm=5000 * 0.1)
        assert advise_balance(given, tube, Mount(name="M"), CLEAR).is_done is still
