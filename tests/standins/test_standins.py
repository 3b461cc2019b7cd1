"""The stand-ins: weather that repeats, instruments that speak the documented lines, the clock."""

import json
from datetime import UTC, datetime, timedelta
from itertools import islice

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jade_perch.core.bench.instrument import read_line
from jade_perch.core.errors import OutOfRange
from jade_perch.core.practice.faults import FAULT_EVERY
from jade_perch.core.site import Site
from jade_perch.devices.clock import Clock, parse_clock
from jade_perch.devices.hub import MOST_WAITING, InstrumentHub
from jade_perch.standins.instruments import InstrumentSettings, simulated_lines
from jade_perch.standins.weather import simulated_hours

COMMON = Site(name="C", latitude_deg=48.7, longitude_deg=8.1, elevation_m=420, zone="Europe/Berlin")
BAY = Site(name="B", latitude_deg=-38.9, longitude_deg=177.5, zone="Pacific/Auckland")
MOMENTS = st.datetimes(datetime(2020, 1, 1), datetime(2040, 1, 1)).map(
    lambda moment: moment.replace(tzinfo=UTC)
)


@given(MOMENTS, st.floats(-90, 90), st.floats(-180, 180), st.floats(-450, 6000))
def test_there_is_weather_everywhere_and_it_repeats(moment, latitude, longitude, elevation):
    site = Site(
        name="S", latitude_deg=latitude, longitude_deg=longitude, elevation_m=elevation, zone="UTC"
    )
    hours = [moment, moment + timedelta(hours=1)]
    told = simulated_hours(site, hours, seed=7)
    assert told == [*simulated_hours(site, hours[:1], seed=7), *simulated_hours(site, hours[1:], 7)]
    assert abs(told[1].air_c - told[0].air_c) < 4 and all(
        one.cloud_percent is not None for one in told
    )


def test_another_seed_or_place_has_another_night():
    hours = [datetime(2027, 2, 13, 18, tzinfo=UTC) + timedelta(hours=n) for n in range(12)]
    clouds = [
        tuple(one.cloud_percent for one in simulated_hours(site, hours, seed))
        for site in (COMMON, BAY)
        for seed in range(20)
    ]
    assert len(set(clouds)) > 25  # clear ones are alike
    covered = [cloud for night in clouds for cloud in night]
    assert min(covered) == 0 and max(covered) == 100


def air(site, moment):
    """The mean of many seeds: the season and the hour alone."""
    many = [simulated_hours(site, [moment], seed)[0] for seed in range(40)]
    return [sum(getattr(one, name) for one in many) / 40 for name in ("air_c", "humidity_percent")]


def test_nights_are_colder_and_damper_and_seasons_turn_at_the_equator():
    noon = datetime(2027, 2, 13, 13, tzinfo=UTC)
    day, night = air(COMMON, noon), air(COMMON, noon.replace(hour=2))
    assert night[0] < day[0] and night[1] > day[1]
    assert air(COMMON, noon.replace(month=7))[0] > day[0] + 10
    there = datetime(2027, 2, 13, 1, tzinfo=UTC)  # early afternoon in the south-west Pacific
    assert air(BAY, there)[0] > air(BAY, there.replace(month=7))[0]


@pytest.mark.parametrize("kind", ["level", "compass"])
def test_every_line_is_a_reading_with_the_next_number(kind):
    lines = list(islice(simulated_lines(kind, InstrumentSettings(noise_deg=1)), 200))
    read = [read_line(line) for line in lines]
    assert [one.seq for one in read] == list(range(200))
    assert all(one.instrument == kind for one in read)


def test_noise_is_as_large_as_set_and_iron_turns_the_compass():
    settings = InstrumentSettings(along_deg=1.0, across_deg=-2.0, noise_deg=0.5)
    read = [json.loads(line) for line in islice(simulated_lines("level", settings), 2000)]
    mean = sum(one["along_deg"] for one in read) / len(read)
    spread = (sum((one["along_deg"] - mean) ** 2 for one in read) / len(read)) ** 0.5
    assert mean == pytest.approx(1.0, abs=0.05) and spread == pytest.approx(0.5, abs=0.03)
    iron = InstrumentSettings(bearing_deg=355, iron_deg=12, noise_deg=0)
    (line,) = islice(simulated_lines("compass", iron), 1)
    assert read_line(line).bearing_deg == pytest.approx(7.0, abs=1e-6)


def test_each_fault_shows_once_in_so_many_readings():
    jumps = islice(simulated_lines("level", InstrumentSettings(fault="jumps", noise_deg=0)), 80)
    leaps = [json.loads(line)["along_deg"] > 5 for line in jumps]
    assert leaps.index(True) == FAULT_EVERY - 1 and sum(leaps) == 2
    rubbish = list(islice(simulated_lines("level", InstrumentSettings(fault="rubbish")), 40))
    with pytest.raises(OutOfRange, match="JSON object"):
        read_line(rubbish[-1])
    stopped = list(islice(simulated_lines("level", InstrumentSettings(fault="stops")), 3))
    assert stopped == [None] * 3


def test_a_device_that_talks_to_nobody_fills_no_memory():
    hub = InstrumentHub()
    assert not hub.is_fed("level") and hub.fed_lines("level") == []
    hub.feed("level", [str(n) for n in range(3 * MOST_WAITING)])
    waiting = hub.fed_lines("level")
    assert len(waiting) == MOST_WAITING and waiting[-1] == str(3 * MOST_WAITING - 1)
    assert hub.fed_lines("level") == [] and hub.is_fed("level") and not hub.is_fed("compass")
    hub.unplug("level")
    assert not hub.is_fed("level")


def test_the_clock_runs_or_stands():
    held = parse_clock("2027-02-13T17:10+01:00")
    assert held.now_utc() == datetime(2027, 2, 13, 16, 10, tzinfo=UTC) == held.now_utc()
    running = parse_clock("now")
    assert abs(running.now_utc() - datetime.now(UTC)) < timedelta(minutes=1)
    assert running == parse_clock(None) == Clock()
    counter = iter([100.0, 100.0, 130.5])
    fast = parse_clock("2027-02-13T17:10+01:00@60", lambda: next(counter))
    assert fast.kind == "rehearsal"
    assert fast.now_utc() == held.now_utc()
    assert fast.now_utc() - held.now_utc() == timedelta(seconds=30.5 * 60)
    for wrong in (
        "yesterday",
        "2027-02-13T17:10+01:00@fast",
        "2027-02-13T17:10+01:00@-1",
        "2027-02-13T17:10",
        "1600-01-01T00:00+00:00",
        "",
    ):
        with pytest.raises(OutOfRange, match="--clock"):
            parse_clock(wrong)
