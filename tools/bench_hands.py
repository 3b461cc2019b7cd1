"""Hands that follow the words of the API from random starts: how many turns until it is good."""

import statistics
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

import numpy as np
from fastapi.testclient import TestClient

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.asking import demo_house
from tests.followers import (
    finder_by_rules,
    finder_over_http,
    level_by_rules,
    level_over_http,
    post,
)
from tests.hands import Base, Sighted, align_it, level_it

from jade_perch.core.bench.landmark import Landmark
from jade_perch.core.kit import Finder, Mount

STARTS, OVER_HTTP = 500, 20
FAR = Landmark(bearing_deg=20, far="horizon")
BASES = ((3, "screws"), (3, "clamps"), (3, "none"), (4, "screws"))
FINDERS = (("dot", 2), ("straight", 3), ("right_angle", 3), ("ring", 3), ("straight", 4),
           ("right_angle_correct", 6))  # fmt: skip
HOW = {"screws": "foot screws", "clamps": "leg clamps", "none": "put under"}
Hands = tuple[str, int, float, int]


def _level(client: TestClient, mount: Mount) -> Callable[[], int | None]:
    made = post(client, "kit/mounts", mount.model_dump())
    tube = client.get("/api/kit/telescopes").json()[0]
    worn = {**tube, "id": None, "mount_id": made["id"]}
    client.put(f"/api/kit/telescopes/{tube['id']}", json=worn).raise_for_status()
    rng = np.random.default_rng(1)
    answer = level_over_http(client)
    return lambda: level_it(Base(rng, mount.feet, mount.levelling), answer)


def _finder(client: TestClient, finder: Finder) -> Callable[[], int | None]:
    tube = client.get("/api/kit/telescopes").json()[0]
    rng = np.random.default_rng(2)

    def one() -> int | None:
        sight = {"name": str(rng.integers(1 << 40)), "telescope_id": tube["id"]}
        made = post(client, "kit/finders", {**finder.model_dump(), "id": None, **sight})
        answer = finder_over_http(client, made["id"], FAR.model_dump())
        turns: int | None = align_it(Sighted(rng, finder.screw_count), answer)
        client.delete(f"/api/kit/finders/{made['id']}").raise_for_status()
        return turns

    return one


def _row(label: str, turns: list[int | None], over_http: list[int | None]) -> Hands:
    ended = [n for n in turns if n is not None]
    return label, turns.count(None) + over_http.count(None), statistics.median(ended), max(ended)


def measure_hands(starts: int = STARTS, over_http: int = OVER_HTTP) -> list[Hands]:
    """Return for each base and finder how many starts never ended, and median and worst turns."""
    rows: list[Hands] = []
    for feet, how in BASES:
        said = {"name": "Hands", "kind": "altaz_motor", "feet": feet, "levelling": how}
        mount, rng = Mount.model_validate(said), np.random.default_rng(3)
        turns = [level_it(Base(rng, feet, how), level_by_rules(mount)) for _ in range(starts)]
        with demo_house(Path(tempfile.mkdtemp())) as client:
            posted = _level(client, mount)
            asked = [posted() for _ in range(over_http)]
        rows.append(_row(f"base, {feet} feet, {HOW[how]}", turns, asked))
    for kind, screws in FINDERS:
        finder = Finder(id=1, name="F", kind=kind, screws=screws)
        rng = np.random.default_rng(4)
        turns = [
            align_it(Sighted(rng, screws), finder_by_rules(finder, FAR)) for _ in range(starts)
        ]
        with demo_house(Path(tempfile.mkdtemp())) as client:
            posted = _finder(client, finder)
            asked = [posted() for _ in range(over_http)]
        label = f"finder, {finder.traits.title.lower()}, {screws} screws"
        rows.append(_row(label, turns, asked))
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
