"""The application asked as its own page asks: by its address, saying what is sent."""

from contextlib import closing
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory

from fastapi import FastAPI
from fastapi.testclient import TestClient

from jade_perch.api.app import create_app
from jade_perch.demo import CLOCK
from jade_perch.demo.loader import load_demo
from jade_perch.devices.clock import parse_clock
from jade_perch.store.connection import DATABASE_NAME, connect
from jade_perch.store.opening import make_ready

ADDRESS = "http://127.0.0.1"
CSV = {"content-type": "text/csv"}
LINES = {"content-type": "application/x-ndjson"}
PICTURE = {"content-type": "application/octet-stream"}


def asking(app: FastAPI) -> TestClient:
    """A client of an application; what breaks inside is an answer, as it is over the wire."""
    return TestClient(app, base_url=ADDRESS, raise_server_exceptions=False)


@cache
def database(is_demo: bool) -> bytes:
    """A database as a first start leaves it: made once, however many tests begin with one."""
    with TemporaryDirectory() as folder:
        path = Path(folder) / DATABASE_NAME
        make_ready(path, parse_clock(CLOCK).now_utc())
        if is_demo:
            with closing(connect(path)) as db:
                load_demo(db)
        return path.read_bytes()


def lay_out(folder: Path, is_demo: bool) -> None:
    """Put a database where there is none yet."""
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    path = folder / DATABASE_NAME
    if not path.exists():
        path.touch(mode=0o600)
        path.write_bytes(database(is_demo))


def demo_house(folder: Path, clock: str = CLOCK) -> TestClient:
    """A client of an application with the demo scenario in it."""
    lay_out(folder, is_demo=True)
    return asking(create_app(folder, parse_clock(clock)))
