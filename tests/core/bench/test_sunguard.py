"""The Sun guard against another library, across midnight, in polar and southern places."""

import math
from datetime import UTC, date, datetime, timedelta

import ephem
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jade_perch.core.bench.advice import MOST_WORDS
from jade_perch.core.bench.landmark import Aim, Landmark
from jade_perch.core.bench.solar import (
    SolarNow,
    SolarOpening,
    SolarSession,
    barred_filters,
    shadow_off_deg,
    solar_forbids,
    still_open,
)
from jade_perch.core.bench.sunguard import SunRefusal, guard, require_safe
from jade_perch.core.bench.sunring import sun_ring
from jade_perch.core.errors import OutOfRange
from jade_perch.core.kit import LightFilter, Telescope, Upkeep
from jade_perch.core.moments import Now
from jade_perch.core.safety import sun_at
from jade_perch.core.site import Site
from tests.guarded import check_landmark, check_stars

COMMON = Site(name="C", latitude_deg=48.7, longitude_deg=8.1, zone="Europe/Berlin")
BAY = Site(name="B", latitude_deg=-38.9, longitude_deg=177.5, zone="Pacific/Auckland")
NORTH = Site(name="N", latitude_deg=75.0, longitude_deg=20.0, zone="UTC")
TUBE = Telescope(
    id=1, version=1, name="Own", aperture_mm=80, focal_length_mm=600, design="refractor"
)
FOIL = LightFilter(id=1, version=1, name="Foil", kind="solar_front")
EQUATOR = Site(name="E", latitude_deg=0.0, longitude_deg=0.0, zone="UTC")


def other_sun(site, when):
    observer = ephem.Observer()
    observer.lat, observer.lon = math.radians(site.latitude_deg), math.radians(site.longitude_deg)
    observer.date, observer.pressure = ephem.Date(when.replace(tzinfo=None)), 1010
    sun = ephem.Sun(observer)
    return math.degrees(sun.az), math.degrees(sun.alt)


@settings(max_examples=40)
@given(
    bearing=st.floats(0, 360),
    altitude=st.floats(-5, 60),
    hours=st.floats(0, 24 * 300),
    job=st.floats(10, 180),
    south=st.booleans(),
)
def test_never_allowed_where_another_library_finds_the_sun_near(
    bearing, altitude, hours, job, south
):
    """Whatever is allowed stays 30° from the Sun at every five minutes of the job."""
    site = BAY if south else COMMON
    start = datetime(2027, 1, 5, tzinfo=UTC) + timedelta(hours=hours)
    landmark = Landmark(bearing_deg=bearing, altitude_deg=altitude, distance_m=500, job_minutes=job)
    if check_landmark(site, landmark, start).refused:
        return
    for minute in range(0, int(job) + 1, 5):
        sun_az, sun_alt = other_sun(site, start + timedelta(minutes=minute))
        if sun_alt < -0.5:
            continue
        one, two = math.radians(altitude), math.radians(sun_alt)
        across = math.radians(bearing - sun_az)
        cosine = math.sin(one) * math.sin(two) + math.cos(one) * math.cos(two) * math.cos(across)
        assert math.degrees(math.acos(max(-1, min(1, cosine)))) >= 30


def test_a_job_that_runs_into_sunrise_is_refused():
    """Before dawn the Sun is down, but it comes up in the east during a long job."""
    dawn = datetime(2027, 6, 21, 2, 40, tzinfo=UTC)  # about 40 minutes before sunrise, margin 10
    east = {"bearing_deg": 55, "distance_m": 900}
    short = check_landmark(COMMON, Landmark(**east, job_minutes=15), dawn)
    assert not short.refused and short.words == "The Sun is down for the whole job."
    long = check_landmark(COMMON, Landmark(**east, job_minutes=120), dawn)
    assert long.refused and "comes up during the job" in long.words
    assert not check_landmark(
        COMMON, Landmark(bearing_deg=235, distance_m=900, job_minutes=120), dawn
    ).refused
    assert check_stars(COMMON, dawn, 120).refused and not check_stars(COMMON, dawn, 10).refused


def test_refused_until_the_sun_is_down_across_the_date_line():
    """In the south-west Pacific the evening falls on the morning of the UTC day."""
    evening = datetime(2027, 2, 13, 6, 30, tzinfo=UTC)  # 19:30 there
    azimuth, altitude = other_sun(BAY, evening)
    check = check_landmark(BAY, Landmark(bearing_deg=azimuth, distance_m=900), evening)
    assert check.refused and check.nearest_deg == pytest.approx(altitude, abs=6)
    with pytest.raises(SunRefusal, match="30° is the least"):
        require_safe(check, Landmark(bearing_deg=azimuth, distance_m=900).aim(), BAY.zone)
    observer = ephem.Observer()
    observer.lat, observer.lon = math.radians(-38.9), math.radians(177.5)
    observer.date = ephem.Date(evening.replace(tzinfo=None))
    sunset = observer.next_setting(ephem.Sun()).datetime().replace(tzinfo=UTC)
    # ten minutes' margin after it has set, and a minute in hand
    late_s = (check.allowed_from_utc - sunset).total_seconds()
    assert 600 <= late_s <= 780
    later = check.allowed_from_utc
    assert not check_landmark(BAY, Landmark(bearing_deg=azimuth, distance_m=900), later).refused


def test_polar_day_says_when_the_sun_has_moved_on_and_polar_night_never_refuses():
    midsummer = datetime(2027, 6, 21, 22, 40, tzinfo=UTC)  # the Sun due north, at midnight
    azimuth, _ = other_sun(NORTH, midsummer)
    check = check_landmark(NORTH, Landmark(bearing_deg=azimuth, distance_m=900), midsummer)
    # stars have to wait, a landmark until the Sun has moved 30° and the half hour's way along
    assert check_stars(NORTH, midsummer, 15).allowed_from_utc is None
    wait = check.allowed_from_utc - midsummer
    assert check.refused and timedelta(hours=2) < wait < timedelta(hours=3)
    ring = sun_ring(NORTH, Now(midsummer))
    assert ring.is_up and ring.counts_until_utc is None and "does not set" in ring.words
    midwinter = datetime(2027, 12, 21, 11, 0, tzinfo=UTC)
    assert not check_landmark(NORTH, Landmark(bearing_deg=180, distance_m=900), midwinter).refused
    assert sun_ring(NORTH, Now(midwinter)).safe[0].to_deg == 360


def test_the_sun_at_the_zenith_leaves_the_horizon_safe_but_not_the_sky():
    noon = datetime(2027, 3, 21, 12, 6, tzinfo=UTC)
    assert other_sun(EQUATOR, noon)[1] > 89
    short = {"distance_m": 900, "job_minutes": 20}
    assert not check_landmark(EQUATOR, Landmark(bearing_deg=90, **short), noon).refused
    assert check_landmark(EQUATOR, Landmark(bearing_deg=90, altitude_deg=70, **short), noon).refused


def test_a_compass_bearing_is_made_true_before_the_sun_is_looked_for():
    """The model's published declination at 80° S 120° W on 2025.0 is 68.78° east."""
    ice = Site(name="I", latitude_deg=-80, longitude_deg=-120, zone="UTC")
    midnight = datetime(2025, 1, 1, 8, 0, tzinfo=UTC)
    sun_az, sun_alt = other_sun(ice, midnight)
    read = {
        "bearing_deg": (sun_az - 68.78) % 360, "altitude_deg": 0, "distance_m": 900,
        "job_minutes": 5,
    }  # fmt: skip
    by_compass = check_landmark(ice, Landmark(**read, bearing_by="compass"), midnight)
    assert by_compass.refused
    assert by_compass.nearest_deg == pytest.approx(sun_alt, abs=0.3)
    assert by_compass.true_bearing_deg == pytest.approx(sun_az, abs=0.02)
    assert not check_landmark(ice, Landmark(**read), midnight).refused


@pytest.mark.parametrize(
    ("latitude", "longitude", "year"), [(48.7, 8.1, 2031), (86, 140, 2027), (82, -150, 2027)]
)
def test_a_compass_nobody_can_trust_is_refused(latitude, longitude, year):
    site = Site(name="S", latitude_deg=latitude, longitude_deg=longitude, zone="UTC")
    landmark = Landmark(bearing_deg=20, distance_m=900, bearing_by="compass")
    with pytest.raises(OutOfRange, match="a map's bearing") as refusal:
        check_landmark(site, landmark, datetime(year, 6, 1, tzinfo=UTC))
    assert refusal.value.field == "bearing_by"


def test_the_ring_leaves_out_the_way_of_the_sun():
    """At 17:10 of the demo evening the Sun stands at 244°; ten minutes after setting at 253°."""
    ring = sun_ring(COMMON, Now(datetime(2027, 2, 13, 16, 10, tzinfo=UTC)))
    (unsafe,) = ring.unsafe
    assert unsafe.from_deg == pytest.approx(244 - 31, abs=2.1)
    assert unsafe.to_deg == pytest.approx(253 + 31, abs=2.1)
    assert ring.holds_until_utc == ring.counts_until_utc


@settings(max_examples=40)
@given(
    hours=st.floats(0, 24 * 300), latitude=st.floats(-80, 80), altitude=st.floats(0, 60),
    share=st.floats(0, 1),
)  # fmt: skip
def test_any_bearing_inside_a_safe_stretch_is_allowed(hours, latitude, altitude, share):
    """Six hours of work at any bearing that the ring calls safe are never refused."""
    site = Site(name="S", latitude_deg=latitude, longitude_deg=8, zone="UTC")
    now = datetime(2027, 1, 5, tzinfo=UTC) + timedelta(hours=hours)
    ring = sun_ring(site, Now(now), (altitude,))
    covered = sum((arc.to_deg - arc.from_deg) % 360 or 360 for arc in (*ring.safe, *ring.unsafe))
    assert covered == pytest.approx(360, abs=1e-6)
    for arc in ring.safe:
        bearing = (arc.from_deg + share * ((arc.to_deg - arc.from_deg) % 360 or 360)) % 360
        landmark = Landmark(
            bearing_deg=bearing, altitude_deg=altitude, distance_m=500, job_minutes=360
        )
        assert not check_landmark(site, landmark, now).refused


def test_a_solar_session_wants_every_check_and_an_inspected_filter():
    with pytest.raises(ValueError, match="every check"):
        SolarOpening(filter_id=1, done=["maker", "pinholes"])
    assert solar_forbids([], {}, True, False, drill_is_passed=True) == [
        "No full-aperture solar front filter is in the kit."
    ]
    assert "down" in solar_forbids([], {}, False, False, drill_is_passed=True)[0]
    foil = [LightFilter(id=1, name="Foil", kind="solar_front")]
    (first,) = solar_forbids(foil, {}, True, False, drill_is_passed=False)
    assert "Sun drill" in first


def test_only_an_inspected_filter_may_stand_before_the_sun():
    foils = [LightFilter(id=n, name=f"Foil {n}", kind="solar_front") for n in (1, 2, 3)]
    task = {"item_kind": "light_filter", "task": "inspection", "every_days": 180}
    upkeeps = [
        Upkeep(item_id=1, last_done=date(2027, 1, 1), **task),
        Upkeep(item_id=2, last_done=date(2026, 1, 1), **task),
        Upkeep(item_id=3, item_kind="light_filter", task="cleaning", every_days=365),
    ]
    barred = barred_filters(foils, upkeeps, date(2027, 2, 13))
    assert set(barred) == {2, 3}
    assert "due for" in barred[2] and barred[3] == "Foil 3: no inspection is noted."
    assert (
        solar_forbids(foils, barred, True, False, drill_is_passed=True) == []
    )  # one of them is good
    late = solar_forbids(foils[2:], barred, True, False, drill_is_passed=True)
    assert "no inspection is noted" in late[0]


def session_and_now(hours=1.0, real_hours=None, tube=TUBE, foil=FOIL, is_up=True, drilled=True):
    """A session of nine o'clock, and what it is measured by so many hours later."""
    opened = datetime(2027, 6, 1, 9, tzinfo=UTC)
    session = SolarSession(
        telescope_name="Own", filter_name="Foil", opened_at_utc=opened, telescope_id=1,
        telescope_version=1, filter_id=1, filter_version=1, real_opened_at_utc=opened,
    )  # fmt: skip
    real = opened + timedelta(hours=hours if real_hours is None else real_hours)
    filters = () if foil is None else (foil,)
    now = Now(opened + timedelta(hours=hours))
    return session, SolarNow(tube, filters, now, real, is_up, drilled)


@pytest.mark.parametrize(
    ("change", "counts"),
    [
        ({"hours": 1}, True),
        ({"hours": 6}, True),
        ({"hours": 6.1}, False),
        ({"hours": -1}, False),
        ({"hours": 1, "real_hours": 7}, False),  # a held clock does not stop the real hours
        ({"is_up": False}, False),
        ({"tube": TUBE.model_copy(update={"id": 2})}, False),
        ({"tube": TUBE.model_copy(update={"version": 2})}, False),
        ({"foil": FOIL.model_copy(update={"version": 2})}, False),  # deleted and taken back
        ({"foil": None}, False),
        ({"drilled": False}, False),  # somebody else is the observer now
    ],
)
def test_a_session_counts_for_its_tube_its_filter_and_its_hours_alone(change, counts):
    session, at = session_and_now(**change)
    assert still_open(session, at) is counts
    assert not still_open(session.model_copy(update={"closed_at_utc": at.real_utc}), at)


@pytest.mark.parametrize("off_deg", [0.0, 0.5, 5.0, 30.0, 70.0])
def test_the_shadow_tells_how_far_off(off_deg):
    """A tube 600 mm long, 80 mm wide: its shadow square to the light is L·sin x + D·cos x."""
    x = math.radians(off_deg)
    shadow = 600 * math.sin(x) + 80 * math.cos(x)
    assert shadow_off_deg(shadow, 600, 80) == pytest.approx(off_deg, abs=1e-6)


@settings(max_examples=30)
@given(
    hours=st.floats(0, 24 * 300), latitude=st.floats(-70, 70), off=st.floats(-29, 29),
    job=st.floats(5, 120), seconds=st.floats(0, 59),
)  # fmt: skip
def test_allowed_from_is_never_followed_by_a_refusal_at_that_minute(
    hours, latitude, off, job, seconds
):
    """Whatever second of that minute somebody begins in; before it, it was refused."""
    site = Site(name="S", latitude_deg=latitude, longitude_deg=8, elevation_m=900, zone="UTC")
    now = datetime(2027, 1, 5, tzinfo=UTC) + timedelta(hours=hours)
    azimuth, _ = other_sun(site, now)
    landmark = Landmark(bearing_deg=(azimuth + off) % 360, distance_m=900, job_minutes=job)
    told = check_landmark(site, landmark, now)
    if told.allowed_from_utc is None:
        return
    assert told.allowed_from_utc > now
    then = told.allowed_from_utc + timedelta(seconds=seconds)
    allowed = check_landmark(site, landmark, then)
    assert not allowed.refused
    # half a degree is kept in hand, of which the Sun takes a quarter within the minute
    assert allowed.nearest_deg is None or allowed.nearest_deg >= 30.7


def test_midsummer_under_the_polar_circle_where_the_sun_is_down_for_minutes_only():
    """At 65.6° N it sets for less than the margins: no minute of that night is allowed."""
    site = Site(name="N", latitude_deg=65.6, longitude_deg=20, elevation_m=10, zone="UTC")
    night = datetime(2027, 6, 20, 21, 0, tzinfo=UTC)
    azimuth, _ = other_sun(site, night)
    told = check_landmark(site, Landmark(bearing_deg=azimuth, distance_m=900), night)
    assert told.refused and told.allowed_from_utc is not None
    allowed = Landmark(bearing_deg=azimuth, distance_m=900)
    assert not check_landmark(site, allowed, told.allowed_from_utc).refused
    # it moves away long before it is down: that is the reason, and said
    sun_az, _ = other_sun(site, told.allowed_from_utc)
    assert abs(sun_az - azimuth) > 29


def test_from_a_mountain_the_sun_is_seen_longer():
    """Dip by the almanac: 1.76′·√2500 = 88′, six minutes and more on the equator."""
    high = EQUATOR.model_copy(update={"elevation_m": 2500.0})
    evening = datetime(2027, 3, 21, 17, 0, tzinfo=UTC)
    low_end, high_end = (sun_ring(one, Now(evening)).counts_until_utc for one in (EQUATOR, high))
    assert 5 <= (high_end - low_end) / timedelta(minutes=1) <= 7


@pytest.mark.parametrize("clock", ["held", "rehearsal"])
def test_by_another_clock_the_answer_says_so_in_the_same_sentence(clock):
    name = {"held": "held", "rehearsal": "rehearsed"}[clock]
    afternoon = Now(datetime(2027, 2, 13, 16, 10, tzinfo=UTC), clock)
    away = Aim(at="landmark", bearing_deg=20, altitude_deg=0)
    for aim in (away, Aim(at="landmark", bearing_deg=244), Aim(at="stars"), Aim(at="open")):
        told = guard(aim, COMMON, afternoon)
        assert f"at the {name} 17:10" in told.words, aim
        assert "nothing of the Sun outside" in told.words
        assert len(told.instruction.split()) <= MOST_WORDS
    assert guard(away, COMMON, afternoon).instruction.startswith(f"Safe at the {name} 17:10: ")
    ring = sun_ring(COMMON, afternoon)
    assert f"at the {name} 17:10" in ring.words
    night = sun_at(COMMON, Now(datetime(2027, 2, 13, 22, 0, tzinfo=UTC), clock))
    assert night.words.startswith(f"The Sun is down at the {name} 23:00.")


def test_a_landmark_whose_height_nobody_gave_is_looked_at_from_level_to_ten_degrees_up():
    """At 17:10 the Sun stands 244°, 4.5° up: the level landmark is nearer than one at 40°."""
    afternoon = Now(datetime(2027, 2, 13, 15, 0, tzinfo=UTC))
    azimuth, altitude = other_sun(COMMON, afternoon.moment_utc)
    near = {"at": "landmark", "bearing_deg": azimuth, "job_minutes": 5}
    unknown = guard(Aim(**near), COMMON, afternoon).nearest_deg
    given = [guard(Aim(**near, altitude_deg=h), COMMON, afternoon).nearest_deg for h in (0, 10)]
    assert unknown == pytest.approx(min(given), abs=0.01) and given[0] > given[1] + 5
    assert given[0] == pytest.approx(altitude, abs=0.6)


def test_the_moon_has_to_be_up_and_stars_want_the_sun_down():
    noon = datetime(2027, 2, 13, 11, 30, tzinfo=UTC)
    with pytest.raises(OutOfRange, match="over the horizon"):
        guard(Aim(at="moon", job_minutes=15), COMMON, Now(datetime(2027, 2, 14, 6, tzinfo=UTC)))
    assert guard(Aim(at="stars"), COMMON, Now(noon)).refused
    assert guard(Aim(at="open"), COMMON, Now(noon)).refused
    assert not guard(Aim(at="capped"), COMMON, Now(noon)).refused
    assert guard(Aim(at="sun"), COMMON, Now(noon)).refused
    assert not guard(Aim(at="sun"), COMMON, Now(noon), session_is_open=True).refused
    with pytest.raises(OutOfRange, match="a direction while the Sun is up"):
        guard(Aim(at="landmark"), COMMON, Now(noon))
    assert not guard(Aim(at="landmark"), COMMON, Now(noon + timedelta(hours=9))).refused
