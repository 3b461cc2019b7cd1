"""The place page: positions and skylines out of files, and into them."""

from fastapi import APIRouter, Response

from jade_perch.api.dependencies import Db, FileBytes, TheDesk
from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.desk import Desk
from jade_perch.core.fields import Frozen
from jade_perch.core.site import Site
from jade_perch.core.skyline import Skyline
from jade_perch.exchange.places import FoundPlaces, read_places, write_geojson, write_gpx
from jade_perch.exchange.skyline_csv import read_skyline, write_skyline
from jade_perch.store.evening import SITES
from jade_perch.store.items import list_items

router = APIRouter(prefix="/plan/place", tags=["plan"])


class SkylineRead(Frozen):
    """A skyline as read; nothing is stored."""

    skyline: Skyline


@router.post("/positions")
def read_positions(data: FileBytes) -> FoundPlaces:
    """Return the points of a GPX or GeoJSON file; nothing is stored."""
    return read_places(data)


@router.post("/skyline")
def read_line(data: FileBytes) -> SkylineRead:
    """Return the skyline in CSV text, typed or from a file; nothing is stored."""
    return SkylineRead(skyline=read_skyline(data.decode("utf-8-sig", errors="replace")))


@router.get("/skyline.csv")
def get_skyline(desk: TheDesk) -> Response:
    """Return the chosen place's skyline as CSV."""
    return _file(write_skyline(_place(desk).skyline), "text/csv", "skyline.csv")


@router.get("/places.gpx")
def get_gpx(db: Db) -> Response:
    """Return all places as waypoints."""
    return _file(write_gpx(list_items(db, SITES)), "application/gpx+xml", "places.gpx")


@router.get("/places.geojson")
def get_geojson(db: Db) -> Response:
    """Return all places as GeoJSON points."""
    return _file(write_geojson(list_items(db, SITES)), "application/geo+json", "places.geojson")


def _place(desk: Desk) -> Site:
    if desk.place is None:
        raise OutOfRange("place", "(nothing)", "a place", "Choose your place first.")
    return desk.place


def _file(content: str | bytes, media_type: str, name: str) -> Response:
    headers = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(content, media_type=media_type, headers=headers)
