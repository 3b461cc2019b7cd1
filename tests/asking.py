"""The application asked as its own page asks: by its address, saying what is sent."""

from pathlib import Path

from fastapi import FastAPI
from fastapi.testclient import TestClient

from jade_perch.api.app import create_app
from jade_perch.demo.loader import CLOCK, load_demo
from jade_perch.devices.clock import parse_clock
from jade_perch.store.connection import DATABASE_NAME, connect

ADDRESS = "http://127.0.0.1"
CSV = {"content-type": "text/csv"}
LINES = {"content-type": "application/x-ndjson"}
PICTURE = {"content-type": "application/octet-stream"}


def asking(app: FastAPI) -> TestClient:
    """A client of an application; what breaks inside is an answer, as it is over the wire."""
    return TestClient(app, base_url=ADDRESS, raise_server_exceptions=False)


def fill(folder: Path) -> None:
    """Load the demo scenario into the database of a folder."""
    db = connect(folder / DATABASE_NAME)
    load_demo(db)
    db.close()


def demo_house(folder: Path, clock: str = CLOCK) -> TestClient:
    """A client of an application with the demo scenario in it."""
    app = create_app(folder, parse_clock(clock))
    fill(folder)
    return asking(app)
