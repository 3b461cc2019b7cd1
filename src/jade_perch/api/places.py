"""The place page: positions and skylines out of files, and into them."""

from fastapi import Response

from jade_perch.api.dependencies import FILE_BODY, Db, FileBytes, TheDesk
from jade_perch.api.downloads import download
from jade_perch.api.stations import station
from jade_perch.core.evening.desk import require_place
from jade_perch.core.fields import Frozen
from jade_perch.core.skyline import Skyline
from jade_perch.exchange.places import FoundPlaces, read_places, write_geojson, write_gpx
from jade_perch.exchange.skyline_csv import read_skyline, write_skyline
from jade_perch.store.evening import SITES
from jade_perch.store.items import list_items

router = station("/plan/place", "plan")


class SkylineRead(Frozen):
    """A skyline as read; nothing is stored."""

    skyline: Skyline


@router.post("/positions", openapi_extra=FILE_BODY)
def read_positions(data: FileBytes) -> FoundPlaces:
    """Return the points of a GPX or GeoJSON file; nothing is stored."""
    return read_places(data)


@router.post("/skyline", openapi_extra=FILE_BODY)
def read_line(data: FileBytes) -> SkylineRead:
    """Return the skyline in CSV text, typed or from a file; nothing is stored."""
    return SkylineRead(skyline=read_skyline(data.decode("utf-8-sig", errors="replace")))


@router.get("/skyline.csv")
def get_skyline(desk: TheDesk) -> Response:
    """Return the chosen place's skyline as CSV."""
    return download(write_skyline(require_place(desk).skyline), "text/csv", "skyline.csv")


@router.get("/places.gpx")
def get_gpx(db: Db) -> Response:
    """Return all places as waypoints."""
    return download(write_gpx(list_items(db, SITES)), "application/gpx+xml", "places.gpx")


@router.get("/places.geojson")
def get_geojson(db: Db) -> Response:
    """Return all places as GeoJSON points."""
    return download(write_geojson(list_items(db, SITES)), "application/geo+json", "places.geojson")
