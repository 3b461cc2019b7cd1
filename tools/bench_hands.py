"""Hands that follow the words of the API from random starts: how many turns until it is good."""

import statistics
import sys
import tempfile
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import numpy as np
from fastapi.testclient import TestClient

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.hands import Base, Sighted, align_it, level_it

from jade_perch.api.app import create_app
from jade_perch.core.bench.finder import FinderInput, advise_finder
from jade_perch.core.bench.landmark import Aim
from jade_perch.core.bench.level import LevelInput, advise_level
from jade_perch.core.bench.loop import Try
from jade_perch.core.bench.sunguard import guard
from jade_perch.core.finders import FINDER_TRAITS
from jade_perch.core.kit import Finder, Mount
from jade_perch.core.moments import Now
from jade_perch.core.site import Site
from jade_perch.demo.loader import CLOCK, load_demo
from jade_perch.devices.clock import parse_clock
from jade_perch.store.connection import DATABASE_NAME, connect
from jade_perch.store.migrations import migrate

STARTS, OVER_HTTP = 500, 20
LONGEST_FIELD_DEG = 2.0
SITE = Site(name="A", latitude_deg=48.7, longitude_deg=8.1, zone="UTC")
FAR = {"bearing_deg": 20, "far": "horizon"}
BASES = ((3, "screws"), (3, "clamps"), (3, "none"), (4, "screws"))
FINDERS = (("dot", 2), ("straight", 3), ("right_angle", 3), ("ring", 3), ("straight", 4),
           ("right_angle_correct", 6))  # fmt: skip
HOW = {"screws": "foot screws", "clamps": "leg clamps", "none": "put under"}
Hands = tuple[str, int, float, int]


def _client() -> TestClient:
    data_dir = Path(tempfile.mkdtemp())
    db = connect(data_dir / DATABASE_NAME)
    migrate(db)
    load_demo(db)
    db.close()
    return TestClient(create_app(data_dir, parse_clock(CLOCK)))


def _post(client: TestClient, path: str, body: dict[str, Any]) -> dict[str, Any]:
    answer: dict[str, Any] = client.post(f"/api/{path}", json=body).raise_for_status().json()
    return answer


def _level(client: TestClient, feet: int, levelling: str) -> Callable[[], int | None]:
    mount = {"name": f"Base {feet} {levelling}", "kind": "altaz_motor", "feet": feet}
    made = _post(client, "kit/mounts", {**mount, "levelling": levelling})
    tube = client.get("/api/kit/telescopes").json()[0]
    worn = {**tube, "id": None, "mount_id": made["id"]}
    client.put(f"/api/kit/telescopes/{tube['id']}", json=worn).raise_for_status()
    rng = np.random.default_rng(1)

    def answer(reading: dict[str, Any]) -> dict[str, Any]:
        told = _post(client, "setup/level?turned=true", {"reading": reading})
        if told["is_done"]:
            _post(client, "setup/level?recorded=true", {"reading": reading})
        return told

    return lambda: level_it(Base(rng, feet, levelling), answer)


def _finder(client: TestClient, kind: str, screws: int) -> Callable[[], int | None]:
    tube = client.get("/api/kit/telescopes").json()[0]
    sight = {"kind": kind, "screws": screws, "telescope_id": tube["id"]}
    rng = np.random.default_rng(2)

    def one() -> int | None:
        made = _post(client, "kit/finders", {"name": str(rng.integers(1 << 40)), **sight})

        def answer(place: Any) -> dict[str, Any]:
            seen: dict[str, Any] = {"trouble": "lost"}
            if place is not None:
                seen = {"seen_right": float(place[0]), "seen_up": float(place[1])}
            body = {"finder_id": made["id"], "landmark": FAR, **seen}
            told = _post(client, "setup/finder?turned=true", body)
            if told["agrees"]:
                _post(client, "setup/finder?recorded=true", {**body, "main_tube": "still_there"})
            return told

        turns = align_it(Sighted(rng, screws), answer)
        client.delete(f"/api/kit/finders/{made['id']}").raise_for_status()
        return turns

    return one


def _level_alone(feet: int, levelling: str) -> Callable[[], int | None]:
    """The same without HTTP and disk: the rules answer, and keep the rounds."""
    rng = np.random.default_rng(3)
    mount = Mount.model_validate(
        {"name": "M", "kind": "altaz_motor", "feet": feet, "levelling": levelling}
    )

    def one() -> int | None:
        rounds: list[Try] = []

        def answer(reading: dict[str, Any]) -> dict[str, Any]:
            given = LevelInput.model_validate({"reading": reading})
            told = advise_level(given, mount, rounds)
            rounds.append(told.round_)
            return {"is_done": told.is_done, "instruction": told.instruction}

        return level_it(Base(rng, feet, levelling), answer)

    return one


def _finder_alone(kind: str, screws: int) -> Callable[[], int | None]:
    rng = np.random.default_rng(4)
    finder = Finder(id=1, name="F", kind=kind, screws=screws)
    clear = guard(Aim(at="capped"), SITE, Now(datetime(2027, 2, 13, 22, tzinfo=UTC)))

    def one() -> int | None:
        rounds: list[Try] = []

        def answer(place: Any) -> dict[str, Any]:
            seen: dict[str, Any] = {"trouble": "lost"}
            if place is not None:
                seen = {"seen_right": float(place[0]), "seen_up": float(place[1])}
            given = FinderInput.model_validate({"finder_id": 1, "landmark": FAR, **seen})
            told = advise_finder(given, finder, LONGEST_FIELD_DEG, clear, rounds)
            rounds.append(told.round_)
            return told.model_dump(include={"agrees", "instruction", "wanted_right", "wanted_up"})

        return align_it(Sighted(rng, screws), answer)

    return one


def _row(label: str, turns: list[int | None], over_http: list[int | None]) -> Hands:
    ended = [n for n in turns if n is not None]
    return label, turns.count(None) + over_http.count(None), statistics.median(ended), max(ended)


def measure_hands(starts: int = STARTS, over_http: int = OVER_HTTP) -> list[Hands]:
    """Return for each base and finder how many starts never ended, and median and worst turns."""
    rows: list[Hands] = []
    for feet, how in BASES:
        one = _level_alone(feet, how)
        with _client() as client:
            posted = _level(client, feet, how)
            asked = [posted() for _ in range(over_http)]
        rows.append(_row(f"base, {feet} feet, {HOW[how]}", [one() for _ in range(starts)], asked))
    for kind, screws in FINDERS:
        one = _finder_alone(kind, screws)
        with _client() as client:
            posted = _finder(client, kind, screws)
            asked = [posted() for _ in range(over_http)]
        label = f"finder, {FINDER_TRAITS[kind].title.lower()}, {screws} screws"
        rows.append(_row(label, [one() for _ in range(starts)], asked))
    return rows


ABOUT = """
## Hands that follow the words

From {starts} random starts each, and {over_http} more through the API, reading nothing but its one
sentence. Unknown are
the foot circle, vial, thread, numbering and sense of the feet; whether the finder's ring is at its
front, its view turned, mirrored or aslant, its lever and thread from a third to four times the
usual, with slack up to 0.3 of a turn and a bump in one of twenty turns.

| what | never | median turns | worst |
| --- | --- | --- | --- |"""


def hands_table(rows: list[Hands], starts: int = STARTS) -> list[str]:
    """Return the rows as a table of the benchmarks."""
    lines = [f"| {label} | {never} | {median:g} | {most} |" for label, never, median, most in rows]
    return [ABOUT.format(starts=starts, over_http=OVER_HTTP), *lines]


if __name__ == "__main__":
    print("\n".join(hands_table(measure_hands(int(sys.argv[1])), int(sys.argv[1]))))
