"""Desks to practise at: the demo's, with another mount, finder or place."""

from contextlib import closing
from dataclasses import replace
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory

from jade_perch.core.kit import Finder, Mount
from jade_perch.demo import CLOCK
from jade_perch.devices.clock import parse_clock
from jade_perch.store.connection import DATABASE_NAME, connect
from jade_perch.store.desk import read_desk
from tests.asking import lay_out


@cache
def demo_desk():
    with TemporaryDirectory() as folder:
        lay_out(Path(folder), is_demo=True)
        with closing(connect(Path(folder) / DATABASE_NAME)) as db:
            return read_desk(db, parse_clock(CLOCK).now())


def desk_with(mount="altaz", finder="straight", screws=None, latitude_deg=None, **changes):
    """The demo's desk with one mount and one finder, or none."""
    desk = demo_desk()
    finders = () if finder is None else (Finder(name="Own", kind=finder, screws=screws),)
    place = desk.place
    if latitude_deg is not None:
        place = place.model_copy(update={"latitude_deg": latitude_deg})
    own = Mount(name="Own", kind=mount)
    return replace(desk, mount=own, finders=finders, place=place, **changes)
