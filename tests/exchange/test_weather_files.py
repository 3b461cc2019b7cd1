"""Files of hours: round trip, holes, and every way in which a row can be wrong."""

import json
from datetime import UTC, datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jade_perch.core.errors import OutOfRange
from jade_perch.core.weather import (
    MOST_HOURS,
    VALUES,
    FileHour,
    ToldWeather,
    WeatherFile,
    merged,
)
from jade_perch.exchange.weather_files import (
    read_weather,
    weather_schema,
    write_weather_csv,
    write_weather_json,
)

START = datetime(2027, 2, 13, 18, tzinfo=UTC)
HEAD = "hour_utc,cloud_percent,wind_m_s,humidity_percent,air_c,steadiness,transparency\r\n"
step = st.one_of(st.none(), st.integers(1, 5))


def some(low, high):
    return st.one_of(st.none(), st.floats(low, high).map(lambda value: round(value, 3)))


hour = st.builds(
    dict, cloud_percent=some(0, 100), wind_m_s=some(0, 60), humidity_percent=some(1, 100),
    air_c=some(-60, 50), steadiness=step, transparency=step,
)  # fmt: skip


@pytest.mark.parametrize(
    ("write", "kind"), [(write_weather_csv, "csv"), (write_weather_json, "json")]
)
@given(st.lists(hour, min_size=1, max_size=30))
def test_what_is_written_reads_back_the_same(write, kind, values):
    hours = tuple(
        FileHour(hour_utc=START.replace(day=13 + n // 24, hour=n % 24), **one)
        for n, one in enumerate(values)
    )
    file = WeatherFile(site_id=1, name="", read_at_utc=START, hours=hours)
    told = merged([one.hour_utc for one in hours], ToldWeather(files=(file,)))
    read = read_weather(write(told).encode(), kind)
    assert read.hours == hours and read.report.refused == 0
    assert "lack" not in read.report.words.split(".")[0]


def test_what_is_simulated_is_not_written_down_as_if_somebody_had_said_it():
    simulated = merged([START], ToldWeather(), [FileHour(hour_utc=START, cloud_percent=5)])
    assert write_weather_csv(simulated) == HEAD + "2027-02-13T18:00Z,,,,,,\r\n"


def test_holes_are_counted_and_stay_unknown():
    rows = "2027-02-13T20:00+01:00,10,,90,,,\n2027-02-13T23:00Z,20,3,80,1,3,4\n"
    read = read_weather((HEAD + rows).encode(), "csv")
    report = read.report
    assert (report.taken, report.refused) == (2, 0) and report.rows[0].outcome == "2 of 6 values"
    assert report.words.startswith("2 hours, 3 lack between them, 1 leave values out.")
    assert read.hours[0].hour_utc == START.replace(hour=19) and read.hours[0].wind_m_s is None


@pytest.mark.parametrize(
    ("row", "field", "allowed"),
    [
        ("2027-02-13T20:30Z,10,,,,,", "hour_utc", "a whole hour of UTC"),
        ("2027-02-13T20:00,10,,,,,", "hour_utc", "offset"),
        ("tonight,10,,,,,", "hour_utc", ""),
        ("0001-01-01T00:00+14:00,10,,,,,", "hour_utc", "a time from 1900-01-01"),
        (",10,,,,,", "hour_utc", "a value"),
        ("2027-02-13T20:00Z,101,,,,,", "cloud_percent", "0 to 100 %"),
        ("2027-02-13T20:00Z,,-1,,,,", "wind_m_s", "0 to 60 m/s"),
        ("2027-02-13T20:00Z,,nan,,,,", "wind_m_s", "0 to 60 m/s"),
        ("2027-02-13T20:00Z,,,,,6,", "steadiness", "1 to 5"),
        ("2027-02-13T20:00Z,,,,,2.5,", "steadiness", "1 to 5"),
        ("2027-02-13T20:00Z,1,2", "row", "7 cells"),
    ],
)
def test_a_row_is_refused_by_its_field_and_nothing_is_kept(row, field, allowed):
    good = "2027-02-13T21:00Z,10,,,,,"
    report = read_weather(f"{HEAD}{good}\n{row}\n".encode(), "csv").report
    first, second = report.rows
    assert not first.problems and report.refused == 1 and "1 of 2 rows" in report.words
    assert second.line == 3 and second.problems[0].field == field
    assert allowed in second.problems[0].allowed


def test_an_hour_twice_is_refused_even_in_another_zone():
    rows = "2027-02-13T20:00Z,10,,,,,\n2027-02-13T21:00+01:00,20,,,,,\n"
    report = read_weather((HEAD + rows).encode(), "csv").report
    assert report.rows[1].problems[0].allowed == "each hour once"


@pytest.mark.parametrize(
    ("data", "kind", "field"),
    [
        (b"", "csv", "file"),
        (HEAD.encode(), "csv", "file"),
        (b"hour_utc,snow\n", "csv", "header"),
        (b"cloud_percent\n5\n", "csv", "header"),
        (b"\xff\xfe", "csv", "file"),
        (HEAD.encode() + b"2027-02-13T20:00Z,,,,,,\n" * (MOST_HOURS + 1), "csv", "file"),
        (b"{", "json", "file"),
        (b"[" * 100_000, "json", "file"),
        (b'{"format": "jade-perch-kit", "version": 1, "items": []}', "json", "format"),
        (b'{"format": "jade-perch-weather", "version": 1, "hours": []}', "json", "file"),
        (b'{"format": "jade-perch-weather", "version": 1, "hours": [1]}', "json", "hours"),
    ],
)
def test_files_that_are_none(data, kind, field):
    with pytest.raises(OutOfRange) as refusal:
        read_weather(data, kind)
    assert refusal.value.field == field


def test_the_schema_names_every_value():
    described = weather_schema()["properties"]["hours"]["items"]
    assert set(described["properties"]) == {"hour_utc", *VALUES}
    assert json.loads(json.dumps(described)) == described
