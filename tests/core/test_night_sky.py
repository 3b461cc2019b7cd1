"""The catalogue over a night, against another library and against the parts it is made of."""

import math
from datetime import UTC, date, datetime

import ephem
import numpy as np
import pytest

from jade_perch.core.site import LightDome, Site
from jade_perch.core.sky.catalogue import catalogue
from jade_perch.core.sky.ephemeris import INDEX
from jade_perch.core.sky.night import make_night, night_track
from jade_perch.core.sky.nightsky import SKY_WEIGHT, make_night_sky, moon_phase_deg
from jade_perch.core.sky.skylight import (
    moonlight_cd_m2,
    separation_altaz_deg,
    site_glow_cd_m2,
    twilight_cd_m2,
)

THINGS = catalogue()
SITE = Site(
    name="P", latitude_deg=48.7, longitude_deg=8.1, elevation_m=420, zone="Europe/Berlin",
    dark_sky_class=4, light_domes=[LightDome(azimuth_deg=200, width_deg=60, brighter_mag=1)],
)  # fmt: skip
SKY = make_night_sky(THINGS, SITE, make_night(SITE, date(2027, 2, 13)))


def at(row, moment):
    looks = SKY.looks(row)
    steps = SKY.step[looks]
    seconds = SKY.unix_s[steps]
    return looks.start + int(np.flatnonzero(seconds == moment.timestamp())[0])


@pytest.mark.parametrize("name", ["M31", "M42", "M81", "NGC 2392", "Sirius", "Castor"])
def test_places_agree_with_another_library(name):
    row = THINGS.row_of(name)
    moment = datetime(2027, 2, 13, 20, 0, tzinfo=UTC)
    observer = ephem.Observer()
    observer.lat, observer.lon, observer.elevation = "48.7", "8.1", 420
    observer.pressure, observer.date = 0, ephem.Date(moment.replace(tzinfo=None))
    star = ephem.FixedBody()
    target = THINGS.target(row)
    star._ra, star._dec = math.radians(target.ra_deg), math.radians(target.dec_deg)
    star.compute(observer)
    entry = at(row, moment)
    assert SKY.altitude_deg[entry] == pytest.approx(math.degrees(star.alt), abs=0.02)
    assert SKY.azimuth_deg[entry] == pytest.approx(math.degrees(star.az), abs=0.04)


@pytest.mark.parametrize("name", ["M31", "M42", "M35", "Capella"])
@pytest.mark.parametrize("hour", [17, 19, 22])
def test_the_sky_behind_each_is_the_sum_of_its_parts(name, hour):
    """The same luminance as by the plain function, one place at a time."""
    moment = datetime(2027, 2, 13, hour, 30, tzinfo=UTC)
    entry = at(THINGS.row_of(name), moment)
    track, when = night_track(SITE, date(2027, 2, 13)), np.array([moment.timestamp()])
    altitude, azimuth = track.altaz_deg(when)
    sun, moon = INDEX["sun"], INDEX["moon"]
    high, around = SKY.altitude_deg[entry], SKY.azimuth_deg[entry]
    away = separation_altaz_deg(high, around, altitude[moon], azimuth[moon])
    expected = (
        site_glow_cd_m2(SITE, high, around)
        + moonlight_cd_m2(high, away, altitude[moon], moon_phase_deg(track, when))
        + twilight_cd_m2(high, around - azimuth[sun], altitude[sun])
    )
    assert SKY.sky_cd_m2[entry] == pytest.approx(float(expected[0]), rel=0.002)
    assert SKY.moonless_cd_m2[entry] <= SKY.sky_cd_m2[entry]


def test_the_best_look_is_the_best_of_all_of_them():
    for row in range(0, len(THINGS), 173):
        looks, best = SKY.looks(row), SKY.best[row]
        if looks.start == looks.stop:
            assert best == -1
            continue
        score = -0.4 * SKY.dimmed_mag[looks] - SKY_WEIGHT * np.log10(SKY.sky_cd_m2[looks])
        assert looks.start <= best < looks.stop
        assert score[best - looks.start] == score.max()


def test_by_midsummer_night_in_the_north_nothing_is_looked_at_by_day():
    north = SITE.model_copy(update={"latitude_deg": 75.0})
    sky = make_night_sky(THINGS, north, make_night(north, date(2027, 6, 21)))
    assert sky.unix_s.size == 1  # the Sun never sets: only its lowest moment is known
    lit = sky.sky_cd_m2.min()
    assert lit > 100  # cd/m², which is day: nothing faint shows, whatever stands there


def test_nothing_is_looked_at_while_the_sun_counts_as_up():
    """From ten minutes after its rim has set, as seen from so high, to as long before it rises."""
    track = night_track(SITE, date(2027, 2, 13))
    for moment, aside_s in ((SKY.unix_s[0], -600), (SKY.unix_s[-1], 600)):
        sun = track.altaz_deg(np.array([moment, moment + aside_s]), INDEX["sun"])[0]
        assert np.all(sun < -0.833 - 1.76 * math.sqrt(420) / 60)
    assert SKY.unix_s[0] == datetime(2027, 2, 13, 17, 0, tzinfo=UTC).timestamp()
