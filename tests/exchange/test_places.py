"""Places, skylines and dark hours out of files and into them; hostile and broken files refused."""

from datetime import UTC, date, datetime

import icalendar
import pytest

from jade_perch.core.errors import OutOfRange
from jade_perch.core.site import Site
from jade_perch.core.sky.calendar import dark_calendar
from jade_perch.core.skyline import SkylinePoint, ordered
from jade_perch.exchange.calendar_ics import write_calendar
from jade_perch.exchange.places import read_places, write_geojson, write_gpx
from jade_perch.exchange.skyline_csv import read_skyline, write_skyline

SITES = [
    Site(
        name="Über <all> & sundry",
        latitude_deg=48.7,
        longitude_deg=8.1,
        elevation_m=420,
        zone="UTC",
    ),
    Site(name="Date line", latitude_deg=-16.5, longitude_deg=179.9999, zone="UTC"),
]


@pytest.mark.parametrize("written", [write_gpx(SITES), write_geojson(SITES).encode()])
def test_places_come_back_as_they_went(written):
    found = read_places(written)
    assert [one.name for one in found.places] == [one.name for one in SITES]
    for one, site in zip(found.places, SITES, strict=True):
        assert one.latitude_deg == pytest.approx(site.latitude_deg, abs=1e-6)
        assert one.longitude_deg == pytest.approx(site.longitude_deg, abs=1e-6)
        assert one.elevation_m == site.elevation_m


def test_a_track_is_points_too_and_other_shapes_are_counted():
    points = b'<trkpt lat="1" lon="2"/><trkpt lat="3" lon="4"/>'
    track = b'<gpx xmlns="x"><trk><trkseg>' + points + b"</trkseg></trk></gpx>"
    assert [one.latitude_deg for one in read_places(track).places] == [1, 3]
    mixed = b"""{"type": "FeatureCollection", "features": [
      {"type": "Feature", "geometry": {"type": "Point", "coordinates": [8, 48]}},
      {"type": "Feature", "properties": {}, "geometry": {"type": "Polygon", "coordinates": []}},
      {"type": "Feature", "properties": {}, "geometry": null}, 7]}"""
    found = read_places(mixed)
    assert len(found.places) == 1 and found.left_out == 3


BOMB = b"""<?xml version="1.0"?><!DOCTYPE g [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>
<gpx><wpt lat="1" lon="2"><name>&b;</name></wpt></gpx>"""
OUTSIDE = (
    b'<!DOCTYPE g [<!ENTITY x SYSTEM "file:///etc/hostname">]><gpx><wpt lat="1" lon="2"/></gpx>'
)


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (BOMB, "entities"),
        (OUTSIDE, "entities"),
        (b"<gpx/>", "no points"),
        (b"<gpx>", "well-formed"),
        (b'{"type": "LineString", "coordinates": [[1, 2]]}', "no points"),
        (b'{"type": "FeatureCollection", "features": {}}', "no points"),
        (b"{" * 50_000, "GeoJSON"),
        (b"\xff\xfe\x00", "UTF-8"),
        (b"", "GPX or GeoJSON"),
        (b"name,lat,lon", "GPX or GeoJSON"),
        (b'<gpx><wpt lat="91" lon="2"/></gpx>', "-90 to 90"),
        (b'<gpx><wpt lat="1"/></gpx>', "-180 to 180"),
        (b'<gpx><wpt lat="nan" lon="1"/></gpx>', "-90 to 90"),
        (b'{"type": "Point", "coordinates": ["x", {}]}', "-90 to 90"),
    ],
)
def test_what_is_no_place_is_refused_with_a_cure(data, says):
    with pytest.raises(OutOfRange, match=says) as refusal:
        read_places(data)
    assert refusal.value.cure


def test_a_skyline_comes_back_and_takes_what_people_type():
    drawn = ordered([SkylinePoint(azimuth_deg=a, altitude_deg=h) for a, h in ((95, 3), (95, 22.5))])
    assert read_skyline(write_skyline(drawn)) == drawn
    assert read_skyline("140; 3\n95\t22.5\n\n95 3") != drawn
    assert read_skyline("Azimuth, altitude\n95°, 3°\n 95 22.5 ") == drawn


@pytest.mark.parametrize(
    ("text", "says"),
    [("95", "two numbers"), ("95 1 2", "two numbers"), ("95 91", "line 1: 95 91"),
     ("10 1\n400 2", "line 2: 400 2"), ("a b", "line 1"), ("1 1\n" * 401, "400 points")],
)  # fmt: skip
def test_a_wrong_line_is_named(text, says):
    with pytest.raises(OutOfRange, match=says):
        read_skyline(text)


def test_dark_hours_are_events_that_a_calendar_reads():
    site = SITES[0].model_copy(update={"id": 1})
    calendar = dark_calendar(site, date(2027, 3, 1), 5)
    read = icalendar.Calendar.from_ical(
        write_calendar(calendar, site, datetime(2027, 2, 13, tzinfo=UTC))
    )
    events = read.walk("VEVENT")
    spans = [span for night in calendar.nights for span in night.spans if span.is_moonless]
    assert [one["DTSTART"].dt for one in events] == [one.start_utc for one in spans]
    assert len({str(one["UID"]) for one in events}) == len(events)
    assert all(str(one["LOCATION"]) == site.name for one in events)
