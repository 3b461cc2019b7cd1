"""Positions and events against an independent library and published values."""

import math
from datetime import UTC, date, datetime, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo

import ephem
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jade_perch.core.errors import OutOfRange
from jade_perch.core.site import Site
from jade_perch.core.sky.ephemeris import BODIES, INDEX, diameter_arcsec
from jade_perch.core.sky.night import evening_date, make_night, night_bounds, night_track

LARKSTONE = Site(
    name="Larkstone", latitude_deg=48.7, longitude_deg=8.1, elevation_m=420, zone="Europe/Berlin"
)
PUMICE = Site(
    name="Pumice", latitude_deg=-38.9, longitude_deg=177.5, elevation_m=60, zone="Pacific/Auckland"
)
FAR_NORTH = Site(name="North", latitude_deg=78.2, longitude_deg=15.6, zone="Arctic/Longyearbyen")
EVENING = date(2027, 2, 13)
SIZES_AGREE = {"venus": 0.015, "saturn": 0.01}  # there the other library counts cloud tops


def other_library(site: Site, moment: datetime) -> ephem.Observer:
    observer = ephem.Observer()
    observer.lat, observer.lon = math.radians(site.latitude_deg), math.radians(site.longitude_deg)
    observer.elevation, observer.pressure = site.elevation_m, 0
    observer.date = ephem.Date(moment.replace(tzinfo=None))
    return observer


@pytest.mark.parametrize("site", [LARKSTONE, PUMICE, FAR_NORTH], ids=lambda s: s.name)
@pytest.mark.parametrize("body", BODIES, ids=lambda b: b.name)
def test_places_and_sizes_agree_with_another_library(site, body):
    """Within 0.02° all night, sizes within 0.5 %; the other library uses other theories."""
    track = night_track(site, EVENING)
    times_s = np.linspace(track.start_s, track.end_s, 9)
    altitude, azimuth = track.altaz_deg(times_s, INDEX[body.name])
    size = diameter_arcsec(body.name, track.distances_au(times_s, INDEX[body.name]))
    for n, time_s in enumerate(times_s):
        other = getattr(ephem, body.label)()
        other.compute(other_library(site, datetime.fromtimestamp(time_s, UTC)))
        apart = ephem.separation(
            (math.radians(azimuth[n]), math.radians(altitude[n])), (other.az, other.alt)
        )
        assert math.degrees(apart) < 0.02
        assert size[n] == pytest.approx(other.size, rel=SIZES_AGREE.get(body.name, 0.005))


@pytest.mark.parametrize(("limit", "light"), [("-0:50", "civil"), ("-18", "dark")])
def test_dusk_agrees_with_another_library(limit, light):
    night = make_night(LARKSTONE, EVENING)
    observer = other_library(LARKSTONE, night.start_utc)
    observer.horizon = limit
    expected = observer.next_setting(ephem.Sun(), use_center=True).datetime().replace(tzinfo=UTC)
    found = next(span.start_utc for span in night.lights if span.light == light)
    assert abs((found - expected).total_seconds()) < 30


def test_moon_of_the_demo_evening():
    """Sets at 00:58 UTC on the 14th by the other library's upper limb; waxing, not yet half."""
    night = make_night(LARKSTONE, EVENING)
    observer = other_library(LARKSTONE, night.start_utc)
    observer.horizon = "-0:34"
    expected = observer.next_setting(ephem.Moon()).datetime().replace(tzinfo=UTC)
    moon = night.bodies[INDEX["moon"]]
    assert moon.up[0].ends and not moon.up[0].starts
    assert abs((moon.up[0].end_utc - expected).total_seconds()) < 60
    assert night.moon_waxing and 40 < night.moon_lit_percent < 46
    assert night.moonless[0].start_utc == moon.up[0].end_utc


def test_published_sunset():
    """Greenwich, 21 June 2020: sunset 21:21, sunrise 04:43 BST in almanacs for London."""
    greenwich = Site(name="Meridian", latitude_deg=51.48, longitude_deg=0.0, zone="Europe/London")
    night = make_night(greenwich, date(2020, 6, 20))
    assert night.sunset_utc is not None and night.sunrise_utc is not None
    assert abs((night.sunset_utc - datetime(2020, 6, 20, 20, 21, tzinfo=UTC)).total_seconds()) < 90
    assert abs((night.sunrise_utc - datetime(2020, 6, 21, 3, 43, tzinfo=UTC)).total_seconds()) < 90
    assert not night.dark and "no dark tonight" in night.dark_words


def test_nothing_is_invented_in_the_far_north():
    summer = make_night(FAR_NORTH, date(2027, 6, 20))
    assert (summer.sunset_utc, summer.sunrise_utc, summer.dark) == (None, None, [])
    assert summer.sun_words == "The Sun does not set."
    assert [span.light for span in summer.lights] == ["day"]
    winter = make_night(FAR_NORTH, date(2027, 12, 20))
    assert (winter.sunset_utc, winter.sun_words) == (None, "The Sun does not rise.")
    assert all(span.light != "day" for span in winter.lights)
    assert winter.bodies[INDEX["sun"]].horizon == "does not rise"
    assert summer.bodies[INDEX["sun"]].horizon == "never sets"


@settings(max_examples=25, deadline=None)
@given(
    st.floats(min_value=-89.9, max_value=89.9),
    st.floats(min_value=-180, max_value=180),
    st.dates(min_value=date(1950, 1, 1), max_value=date(2050, 1, 1)),
)
def test_every_night_is_one_piece_in_order(latitude_deg, longitude_deg, day):
    site = Site(name="Any", latitude_deg=latitude_deg, longitude_deg=longitude_deg, zone="UTC")
    night = make_night(site, day)
    assert night.lights[0].start_utc == night.start_utc
    assert night.lights[-1].end_utc == night.end_utc
    for before, after in pairwise(night.lights):
        assert before.end_utc == after.start_utc
        assert before.light != after.light
    for body in night.bodies:
        for before, after in pairwise(body.up):
            assert before.end_utc < after.start_utc


@pytest.mark.parametrize(
    ("now", "expected"),
    [
        (datetime(2027, 2, 14, 2, 0, tzinfo=UTC), EVENING),  # three in the morning: still yesterday
        (datetime(2027, 2, 14, 12, 0, tzinfo=UTC), date(2027, 2, 14)),
    ],
)
def test_which_evening_it_is(now, expected):
    assert evening_date(LARKSTONE, now) == expected


def test_every_moonrise_after_noon_belongs_to_the_evening_of_its_date():
    """A summer of moonrises by another library; solar noon is at 13:28, after twelve o'clock."""
    observer = ephem.Observer()
    observer.lat, observer.lon = math.radians(48.7), math.radians(8.1)
    observer.pressure, observer.horizon = 0, "-0:34"
    observer.date, between = "2027/6/1 00:00", 0
    zone = ZoneInfo("Europe/Berlin")
    for _ in range(90):
        rise = observer.next_rising(ephem.Moon())
        observer.date = rise + ephem.minute
        at = rise.datetime().replace(tzinfo=UTC)
        local = at.astimezone(zone)
        between += local.hour == 12 or (local.hour == 13 and local.minute < 28)
        if local.hour < 12:
            continue
        moon = make_night(LARKSTONE, local.date()).bodies[INDEX["moon"]]
        nearest = min(abs(span.start_utc - at) for span in moon.up if span.starts)
        assert nearest < timedelta(minutes=2), local
    assert between >= 3


def test_the_evening_is_meant_from_sunrise_on():
    sunrise = make_night(LARKSTONE, EVENING).sunrise_utc
    before, after = sunrise - timedelta(seconds=1), sunrise + timedelta(seconds=1)
    assert evening_date(LARKSTONE, before) == EVENING
    assert evening_date(LARKSTONE, after) == EVENING + timedelta(days=1)
    midsummer = datetime(2027, 6, 20, tzinfo=UTC)  # the Sun does not set: the day turns at six
    dates = [evening_date(FAR_NORTH, midsummer + timedelta(hours=hour)) for hour in range(24)]
    assert dates == sorted(dates) and len(set(dates)) == 2
    turn = dates.index(max(dates))
    solar = (turn + FAR_NORTH.longitude_deg / 15) % 24
    assert 5.9 < solar <= 7.1


@pytest.mark.parametrize("zone", ["UTC", "Pacific/Kiritimati", "Pacific/Pago_Pago"])
def test_a_zone_that_does_not_fit_still_gives_a_night(zone):
    """The Sun is high at both ends and lowest in between, whatever the clocks there say."""
    site = PUMICE.model_copy(update={"zone": zone})
    start, end = night_bounds(site, EVENING)
    assert 24 <= (end - start) / timedelta(hours=1) <= 27
    track = night_track(site, EVENING)
    sun = track.altaz_deg(np.linspace(track.start_s, track.end_s, 5), INDEX["sun"])[0]
    assert sun[0] > 30 and sun[-1] > 30 and sun[2] < -20


@pytest.mark.parametrize("day", [date(1600, 1, 1), date(2100, 1, 1)])
def test_dates_outside_the_ephemeris_are_refused(day):
    with pytest.raises(OutOfRange) as caught:
        make_night(LARKSTONE, day)
    assert caught.value.field == "date" and "2053" in caught.value.allowed
