"""Measure a catalogue of 14 000 simulated objects and a journal of 5 000 observations."""

import tempfile
from collections.abc import Callable
from pathlib import Path
from random import Random

from fastapi.testclient import TestClient
from tests.asking import asking

from jade_perch.api.app import create_app
from jade_perch.core.sky.catalogue import Catalogue, Entry, catalogue, make_catalogue
from jade_perch.core.sky.targets import KINDS
from jade_perch.demo import CLOCK
from jade_perch.demo.loader import load_demo
from jade_perch.devices.clock import parse_clock
from jade_perch.store.connection import DATABASE_NAME, atomic, connect
from jade_perch.store.items import add_item
from jade_perch.store.journal import OBSERVATIONS
from jade_perch.store.opening import bring_forward
from measure import Row, median_ms

OBJECTS, NOTED = 14_000, 5_000
EXTENDED = [name for name, traits in KINDS.items() if traits.shape in ("glow", "cluster")]


def simulated_sky() -> Catalogue:
    """The shipped things first, then made-up ones spread over the sky."""
    dice, shipped = Random(1), catalogue()
    rows = []
    for row, key in enumerate(shipped.keys):
        one = shipped.target(row)
        known = one.model_dump(include=set(Entry.__dataclass_fields__) - {"label"})
        known = {name: value for name, value in known.items() if value is not None}
        rows.append(Entry(label=key.upper(), **known))
    for number in range(OBJECTS - len(rows)):
        size = dice.uniform(0.5, 8)
        rows.append(
            Entry(
                label=f"Sim {number}", name=f"Made-up {number}", kind=dice.choice(EXTENDED),
                ra_deg=dice.uniform(0, 360), dec_deg=dice.uniform(-90, 90),
                magnitude=dice.uniform(7, 15), major_arcmin=size, minor_arcmin=size * 0.6,
                position_angle_deg=dice.uniform(0, 180),
            )
        )  # fmt: skip
    return make_catalogue(rows)


def house(folder: str, things: Catalogue | None = None) -> TestClient:
    app = create_app(Path(folder), parse_clock(CLOCK), things=things)
    db = connect(Path(folder) / DATABASE_NAME)
    load_demo(db)
    db.close()
    return asking(app)


def asked(client: TestClient, path: str) -> Callable[[], object]:
    def ask() -> object:
        answer = client.get(f"/api{path}")
        if answer.status_code != 200:
            raise RuntimeError(answer.text)
        return answer

    return ask


def a_large_catalogue() -> list[Row]:
    with tempfile.TemporaryDirectory() as folder:
        client = house(folder, simulated_sky())
        searches = ("/targets", "/targets?text=a", "/targets?text=made-up 12&most=45")
        finding = max(median_ms(asked(client, path)) for path in searches)
        bytes_ = max(len(client.get(f"/api{path}").content) for path in searches)
        disc = "/powers/disc?telescope_id=1&rung=e1&target="
        drawing = max(
            median_ms(asked(client, disc + key)) for key in ("m31", "sim-77", "moon", "albireo")
        )
        largest = max(len(client.get(f"/api{disc}sim-{n}").content) for n in range(0, 300, 10))
    what = f"with {OBJECTS} simulated objects:"
    return [
        Row(f"{what} a list of targets", "20 ms", f"{finding:.1f} ms", finding < 20),
        Row(f"{what} its payload", "20 kB", f"{bytes_ / 1000:.1f} kB", bytes_ < 20_000),
        Row(f"{what} a view disc", "30 ms", f"{drawing:.1f} ms", drawing < 30),
        Row(f"{what} its payload", "40 kB", f"{largest / 1000:.1f} kB", largest < 40_000),
    ]


def a_long_journal() -> list[Row]:
    dice = Random(2)
    with tempfile.TemporaryDirectory() as folder:
        client = house(folder)
        first = client.get("/api/journal/observations").json()[0]
        db = connect(Path(folder) / DATABASE_NAME)
        bring_forward(db, parse_clock(CLOCK).now_utc())
        with atomic(db):
            for number in range(NOTED):
                night = 1 + number % 28
                at = f"20{dice.randint(10, 26)}-{dice.randint(1, 12):02}-{night:02}T21:00:00Z"
                values = {**first, "id": None, "observed_at_utc": at, "words": "Seen. " * 20}
                add_item(db, OBSERVATIONS, OBSERVATIONS.model.model_validate(values))
        db.close()
        reading = median_ms(asked(client, "/journal/observations"), 5)
        evening = median_ms(asked(client, "/evening"))
    what = f"with {NOTED} observations:"
    return [
        Row(
            f"{what} the whole journal (our own limit)",
            "400 ms",
            f"{reading:.0f} ms",
            reading < 400,
        ),
        Row(f"{what} the evening every page reads", "40 ms", f"{evening:.1f} ms", evening < 40),
    ]
