"""Hours of weather: what counts of file, typing and simulation, and what a night is good for."""

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jade_perch.core.bench.cooling import forecast_of
from jade_perch.core.evening.context import EveningChoice, EveningRow
from jade_perch.core.evening.desk import Desk
from jade_perch.core.evening.outlook import make_outlook, wind_limit_m_s
from jade_perch.core.kit import Mount, Telescope
from jade_perch.core.site import Site
from jade_perch.core.sky.night import make_night
from jade_perch.core.weather import (
    HOUR,
    NOTHING_TOLD,
    VALUES,
    FileHour,
    ToldWeather,
    TypedHour,
    WeatherFile,
    hours_between,
    merged,
)

PLACE = Site(id=1, name="P", latitude_deg=48.7, longitude_deg=8.1, zone="Europe/Berlin")
NIGHT = make_night(PLACE, date(2027, 2, 13))
DUSK = datetime(2027, 2, 13, 17, tzinfo=UTC)  # the hour after sunset, 17:45 at the place
HOURS = [DUSK + timedelta(hours=n) for n in range(14)]  # to 06:00 UTC, sunrise at 06:31
TUBE = Telescope(name="T", aperture_mm=200, focal_length_mm=1200, design="newtonian")
TRIPOD = Mount(name="M", kind="altaz")
DESK = Desk(
    moment_utc=DUSK, choice=EveningChoice(), evening=EveningRow(date=NIGHT.date, site_id=1),
    place=PLACE, night=NIGHT, telescope=TUBE, mount=TRIPOD, diagonal=None, finders=(),
    eyepieces=(), amplifiers=(), observer=None, everybody=(),
)  # fmt: skip
FAIR = {"wind_m_s": 2, "humidity_percent": 60, "air_c": 8, "steadiness": 3, "transparency": 4}


def hours_of(clouds, **values):
    """Hours from dusk on with so much cloud each, None for an hour that lacks."""
    return tuple(
        FileHour(hour_utc=at, cloud_percent=cloud, **(FAIR | values))
        for at, cloud in zip(HOURS, clouds, strict=False)
        if cloud is not None
    )


def told(clouds, **values):
    file = WeatherFile(site_id=1, name="f", read_at_utc=DUSK, hours=hours_of(clouds, **values))
    return ToldWeather(files=(file,))


def outlook(clouds, desk=DESK, **values):
    return make_outlook(merged(HOURS, told(clouds, **values)), NIGHT, desk)


def test_typed_counts_over_the_file_and_the_file_over_the_simulation():
    simulated = hours_of([90] * 14, wind_m_s=9)
    typed = TypedHour(id=3, version=2, site_id=1, hour_utc=HOURS[1], wind_m_s=0)
    weather = ToldWeather(files=told([10, 20, 30]).files, typed=(typed,))
    first, second, third, after = merged(HOURS[:4], weather, simulated)
    assert (first.source, first.cloud_percent, first.typed) == ("file", 10, ())
    assert (second.cloud_percent, second.wind_m_s, second.typed) == (20, 0, ("wind_m_s",))
    assert (second.typed_id, second.typed_version) == (3, 2) and third.cloud_percent == 30
    # beside a file nothing is made up
    assert after.source is None and after.cloud_percent is None
    alone = merged(HOURS[:2], ToldWeather(typed=(typed,)), simulated)
    assert [one.source for one in alone] == ["simulated"] * 2 and alone[1].wind_m_s == 0


def test_a_hole_in_the_newer_file_is_not_filled_from_the_older():
    newer = told([10, None, 30]).files[0]
    older = told([90, 90, 90, 90]).files[0]
    found = merged(HOURS[:4], ToldWeather(files=(newer, older)))
    assert [one.cloud_percent for one in found] == [10, None, 30, 90]


@given(
    st.lists(st.sampled_from([None, 0, 40, 100]), min_size=3, max_size=14).filter(
        lambda clouds: any(cloud is not None for cloud in clouds)
    ),
    st.integers(0, 13),
)
def test_no_hour_of_a_told_night_is_anybody_elses(clouds, shift):
    simulated = hours_of([77] * 14)
    found = merged(HOURS[shift:] + HOURS[:shift], told(clouds), simulated)
    by_hour = {one.hour_utc: one.cloud_percent for one in found}
    assert by_hour == dict(zip(HOURS, clouds + [None] * 14, strict=False))


def test_hours_go_by_utc_through_a_change_of_the_clocks_and_zones_of_half_hours():
    for day in (date(2027, 10, 30), date(2027, 3, 27)):  # the clocks go back, and forward
        night = make_night(PLACE, day)
        hours = hours_between(night.start_utc, night.end_utc)
        assert {b - a for a, b in pairwise(hours)} == {timedelta(hours=1)}
        assert hours[0] <= night.start_utc and hours[-1] < night.end_utc <= hours[-1] + HOUR
    half = PLACE.model_copy(update={"zone": "Asia/Kolkata", "longitude_deg": 77.0})
    noon = make_night(half, date(2027, 2, 13))
    assert all(at.minute == 0 for at in hours_between(noon.start_utc, noon.end_utc))


@pytest.mark.parametrize(
    ("clouds", "word", "words"),
    [
        ([0] * 14, "go", "Clear until dawn."),
        ([0, 10, 10, 90, 90] + [90] * 9, "go", "Clear until 21:00."),
        ([40, 40, 50, 90] + [90] * 10, "go", "Gaps in cloud until 21:00."),
        ([90, 90, 5, 5, 5, 90] + [90] * 8, "wait", "Cloudy first; from 20:00 clear until 23:00."),
        ([90] * 9 + [5] * 5, "stay in", "Cloudy for long; clear only from 03:00."),
        (
            [90, 40, 5, 5, 40, 90] + [90] * 8,
            "wait",
            "Cloudy first; from 19:00 clear or gaps until 23:00, best 20:00 to 22:00.",
        ),
        ([90] * 14, "stay in", "Clouds or storm all night."),
        ([None, None, 5, 5], "not known", "Nobody says"),
    ],
)
def test_go_wait_or_stay_in(clouds, word, words):
    found = outlook(clouds)
    assert found.word == word and found.words.startswith(words)


def test_nobody_is_sent_out_under_the_sun():
    by_day = replace(DESK, moment_utc=DUSK - timedelta(hours=3))
    assert outlook([0] * 14, by_day).words == "Clear from dusk until dawn."


def test_less_than_an_hour_is_not_worth_setting_up_for():
    late = replace(DESK, moment_utc=HOURS[0] + timedelta(minutes=20))
    assert outlook([30] + [90] * 13).word == "go"
    short = outlook([30] + [90] * 13, late)
    assert (short.word, short.words) == ("stay in", "Never clear for an hour on end.")
    assert outlook([30, 90, 5, 5] + [90] * 10, late).words.startswith("Cloudy first; from 20:00")


def test_what_is_over_does_not_count_and_the_clearest_hour_is_ahead():
    late = replace(DESK, moment_utc=HOURS[6] + timedelta(minutes=20))
    found = outlook([0] * 6 + [90, 90, 40, 30, 90, 90, 90, 90], late)
    assert found.word == "wait" and found.clearest.hour_utc == HOURS[9]
    assert outlook([0] * 14, replace(DESK, moment_utc=NIGHT.end_utc)).words == "This night is over."
    polar = Site(id=1, name="N", latitude_deg=78, longitude_deg=15, zone="UTC")
    bright = make_night(polar, date(2027, 6, 21))
    day = make_outlook(
        merged(hours_between(bright.start_utc, bright.end_utc), NOTHING_TOLD),
        bright,
        replace(DESK, place=polar, night=bright, moment_utc=bright.start_utc),
    )
    assert day.word == "stay in" and day.words == bright.sun_words


def reason(found, kind):
    return next((one for one in found.reasons if one.kind == kind), None)


def test_the_wind_shakes_big_tubes_on_light_mounts_first():
    """Rows: what steady wind each is known to bear at high power, about, in m/s."""
    small = Telescope(name="S", aperture_mm=70, focal_length_mm=700, design="refractor")
    rocker = Mount(name="R", kind="rocker")
    limits = [wind_limit_m_s(*one) for one in ((TUBE, TRIPOD), (TUBE, rocker), (small, TRIPOD))]
    assert 3 < limits[0] < limits[1] < 7 and limits[0] < limits[2] < 8
    calm, shaken, storm = (outlook([0] * 14, wind_m_s=wind) for wind in (2, 6, 15))
    assert not reason(calm, "wind").minds and "stays still" in reason(calm, "wind").words
    assert (
        reason(shaken, "wind").minds
        and "shakes 200 mm on this mount" in reason(shaken, "wind").words
    )
    assert shaken.word == "go" and all(one.shakes for one in shaken.hours)
    assert storm.word == "stay in" and storm.words == "Stormy all night."
    assert "push a telescope over" in reason(storm, "wind").words
    bare = outlook([0] * 14, replace(DESK, telescope=None, mount=None), wind_m_s=6)
    assert bare.wind_limit_m_s is None and reason(bare, "wind").words == "Wind to 6 m/s."


def test_dew_cold_air_and_moon_are_reasons():
    """At 0 °C and 90 % the dew point is -1.4 °C.  The Moon, half lit, sets before two."""
    wet = outlook([0] * 14, air_c=0, humidity_percent=90, steadiness=1)
    assert "1.4 °C over the dew point" in reason(wet, "dew").words and reason(wet, "dew").minds
    assert (
        "Down to 0 °C" in reason(wet, "cold").words and "no high power" in reason(wet, "air").words
    )
    assert "until 01:58: bright things first" in reason(wet, "Moon").words  # 01:57:41
    dry = outlook([0] * 14)
    assert not reason(dry, "dew").minds and reason(dry, "cold") is None
    holes = outlook([0, 0, 0, None, 0])
    assert reason(holes, "gap").words == "10 hours say nothing of cloud."
    assert holes.word == "go" and "until 21:00" in holes.words


def test_only_what_was_read_or_typed_sets_the_power_of_the_night():
    assert DESK.viewer().steadiness is None
    windy = replace(DESK, told=told([0] * 14, steadiness=1))
    assert windy.told_steadiness == 1 and windy.viewer().air_is_told
    said = replace(windy, choice=EveningChoice(steadiness=4))
    assert said.viewer().steadiness == 4 and not said.viewer().air_is_told


def test_the_air_of_an_hour_is_taken_from_near_ones_alone():
    hours = merged(HOURS, told([0, None, None, None, None, None, None, None, 0]))
    assert forecast_of(hours, HOURS[2], "UTC").hour_utc == HOURS[0]
    assert forecast_of(hours, HOURS[4] + timedelta(minutes=30), "UTC") is None
    typed = TypedHour(site_id=1, hour_utc=HOURS[0], air_c=4, humidity_percent=50)
    both = merged(HOURS[:1], ToldWeather(typed=(typed,)), hours_of([0]))
    found = forecast_of(both, HOURS[0], "Europe/Berlin")
    assert (found.source, found.words) == ("typed", "As typed for 18:00")
    half = merged(
        HOURS[:1],
        ToldWeather(typed=(typed.model_copy(update={"humidity_percent": None}),)),
        hours_of([0]),
    )
    assert forecast_of(half, HOURS[0], "UTC").source == "simulated"
    assert set(VALUES) == {"cloud_percent", *FAIR}
