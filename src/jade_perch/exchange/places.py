"""Observing places out of GPX and GeoJSON files, and into them."""

import json
from collections.abc import Iterable, Iterator
from typing import Any
from xml.etree.ElementTree import Element, SubElement, tostring

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import ParseError, fromstring
from pydantic import ValidationError

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import NAME_CHARS, Frozen
from jade_perch.core.site import Elevation, Latitude, Longitude, Site

GPX = "http://www.topografix.com/GPX/1/1"
POINTS = ("wpt", "rtept", "trkpt")
MOST_FOUND = 200  # places of one file to choose from; more are left out, and counted


class FoundPlace(Frozen):
    """A point of a file; the name is empty where the file has none."""

    name: str
    latitude_deg: Latitude
    longitude_deg: Longitude
    elevation_m: Elevation | None


class FoundPlaces(Frozen):
    """The points of a file, and how many other things it holds that are no points."""

    places: list[FoundPlace]
    left_out: int


def read_places(data: bytes) -> FoundPlaces:
    """Return the points of a GPX or GeoJSON file, whichever it is.

    Raises ``OutOfRange`` for a file that is neither, for one without points, and for points that
    cannot be places, naming the first.
    """
    text = _decoded(data)
    head = text.lstrip()[:1]
    if head == "<":
        found, others = list(_gpx_points(text)), 0
    elif head == "{":
        found, others = _geojson_points(text)
    else:
        cure = "Choose a .gpx or .geojson file."
        raise OutOfRange("file", text[:20] or "empty", "a GPX or GeoJSON file", cure)
    if not found:
        cure = "Save a waypoint in it, or type the position."
        raise OutOfRange("file", "no points", "a file with at least one point", cure)
    kept = found[:MOST_FOUND]
    places = [_place(number, values) for number, values in enumerate(kept, 1)]
    return FoundPlaces(places=places, left_out=others + len(found) - len(kept))


def write_gpx(sites: Iterable[Site]) -> bytes:
    """Return places as waypoints of a GPX 1.1 file."""
    root = Element("gpx", {"version": "1.1", "creator": "Jade Perch", "xmlns": GPX})
    for site in sites:
        place = {"lat": f"{site.latitude_deg:.6f}", "lon": f"{site.longitude_deg:.6f}"}
        point = SubElement(root, "wpt", place)
        SubElement(point, "ele").text = f"{site.elevation_m:g}"
        SubElement(point, "name").text = site.name
    return bytes(tostring(root, encoding="utf-8", xml_declaration=True))


def write_geojson(sites: Iterable[Site]) -> str:
    """Return places as points of a GeoJSON file (RFC 7946)."""
    features = [
        {
            "type": "Feature",
            "properties": {"name": site.name},
            "geometry": {
                "type": "Point",
                "coordinates": [site.longitude_deg, site.latitude_deg, site.elevation_m],
            },
        }
        for site in sites
    ]
    return json.dumps({"type": "FeatureCollection", "features": features}, ensure_ascii=False)


def _decoded(data: bytes) -> str:
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        cure = "Save it as UTF-8 and choose it again."
        raise OutOfRange("file", f"byte {error.start}", "UTF-8 text", cure) from error


def _gpx_points(text: str) -> Iterator[dict[str, Any]]:
    try:
        root = fromstring(text)
    except DefusedXmlException as error:
        cure = "Such files are not opened; save it anew from the program it came from."
        raise OutOfRange("file", "entities", "GPX without entities", cure) from error
    except ParseError as error:
        cure = "Save it anew from the program it came from."
        raise OutOfRange("file", f"{error}", "well-formed XML", cure) from error
    for element in root.iter():
        if element.tag.rpartition("}")[2] in POINTS:
            yield {
                "name": _child(element, "name") or "",
                "latitude_deg": element.get("lat"),
                "longitude_deg": element.get("lon"),
                "elevation_m": _child(element, "ele"),
            }


def _child(element: Element, name: str) -> str | None:
    found = (one.text for one in element if one.tag.rpartition("}")[2] == name)
    return next(((text or "").strip() or None for text in found), None)


def _geojson_points(text: str) -> tuple[list[dict[str, Any]], int]:
    try:
        document = json.loads(text)
    except (ValueError, RecursionError) as error:
        cure = "Save it anew from the program it came from."
        raise OutOfRange("file", "not JSON", "a GeoJSON object", cure) from error
    features = document.get("features") if document.get("type") == "FeatureCollection" else None
    things = features if isinstance(features, list) else [document]
    points = [one for thing in things if (one := _point(thing)) is not None]
    return points, len(things) - len(points)


def _point(thing: Any) -> dict[str, Any] | None:
    """Return a feature or geometry as a place's values, or None for anything but a point."""
    if not isinstance(thing, dict):
        return None
    geometry = thing.get("geometry") if thing.get("type") == "Feature" else thing
    if not isinstance(geometry, dict) or geometry.get("type") != "Point":
        return None
    at = geometry.get("coordinates")
    if not isinstance(at, list) or len(at) < 2:
        return None
    properties = thing.get("properties")
    name = properties.get("name") if isinstance(properties, dict) else None
    return {
        "name": name if isinstance(name, str) else "",
        "latitude_deg": at[1],
        "longitude_deg": at[0],
        "elevation_m": at[2] if len(at) > 2 else None,
    }


def _place(number: int, values: dict[str, Any]) -> FoundPlace:
    try:
        return FoundPlace.model_validate({**values, "name": values["name"][:NAME_CHARS]})
    except ValidationError as error:
        first = error.errors()[0]
        field, context = str(first["loc"][0]), first.get("ctx", {})
        allowed = str(context.get("allowed", "a number"))
        cure = f"Mend point {number} of the file. {context.get('cure', '')}".strip()
        raise OutOfRange(field, values.get(field), allowed, cure) from error
