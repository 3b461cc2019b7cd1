"""The shipped catalogue in columns: everything to look at by name, and the stars to magnitude 9.

Built by ``tools/build_catalogue.py`` from OpenNGC (CC BY-SA 4.0) and Hipparcos (van Leeuwen 2007).
"""

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields
from functools import cache
from heapq import nsmallest
from importlib.resources import as_file, files
from typing import Any, get_args

import numpy as np

from jade_perch.core.arrays import Floats, Truths
from jade_perch.core.errors import OutOfRange
from jade_perch.core.sky.ephemeris import BODIES, BodyName
from jade_perch.core.sky.targets import KINDS, Shape, Target

DATA = files("jade_perch.core.sky") / "data"
CATALOGUE_FAINTEST_MAG = 9.0
MOST_FOUND = 50  # rows of one search; more are not read, and the answer stays under 20 kB


@dataclass(frozen=True, slots=True)
class Entry:
    """One row to be: what ``Target`` says, names beside its label, and a companion's magnitude."""

    label: str
    kind: str
    name: str = ""
    also: str = ""
    body: BodyName | None = None
    ra_deg: float = np.nan
    dec_deg: float = np.nan
    magnitude: float = np.nan
    major_arcmin: float = np.nan
    minor_arcmin: float = np.nan
    position_angle_deg: float = np.nan
    separation_arcsec: float = np.nan
    companion_mag: float = np.nan


NUMBERS = tuple(field.name for field in fields(Entry) if field.type is float)


@dataclass(frozen=True)
class Catalogue:
    """Targets in columns of one length N, bodies first; numbers that are not known are NaN.

    ``directions`` are ICRS unit vectors, shape (N, 3).
    """

    keys: tuple[str, ...]
    labels: tuple[str, ...]
    kinds: tuple[str, ...]
    bodies: tuple[BodyName | None, ...]
    directions: Floats
    numbers: Mapping[str, Floats]
    _shapes: Mapping[Shape, Truths]
    _texts: tuple[str, ...]
    _spellings: Mapping[str, int]

    def __len__(self) -> int:
        return len(self.keys)

    def has_shape(self, *shapes: Shape) -> Truths:
        """Return which rows are of some shapes, shape (N,).  Source: the table of kinds."""
        return np.asarray(np.logical_or.reduce([self._shapes[shape] for shape in shapes]))

    def target(self, row: int) -> Target:
        """Return one row as a target.  Source: the columns."""
        known = {
            name: float(column[row])
            for name, column in self.numbers.items()
            if name in Target.model_fields and np.isfinite(column[row])
        }
        return Target(
            key=self.keys[row],
            label=self.labels[row],
            kind=self.kinds[row],
            detail=_detail(self.kinds[row], known.get("separation_arcsec")),
            body=self.bodies[row],
            **known,
        )

    def bodies_only(self) -> list[Target]:
        """Return Moon and planets.  Source: the rows that are bodies."""
        return [self.target(row) for row, body in enumerate(self.bodies) if body is not None]

    def find(self, key: str) -> Target | None:
        """Return what a key, a label or another of its names means; None for nothing known.

        Upper and lower case, blanks and hyphens do not matter.  Source: the names it was built of.
        """
        row = self._spellings.get(spelled(key))
        return None if row is None else self.target(row)

    def get(self, key: str) -> Target:
        """Return what a key or name means; raises ``OutOfRange`` for nothing known, and the Sun.

        Source: as ``find``.
        """
        found = self.find(key)
        if found is None:
            cure = "Search by its label, such as moon, M44 or Albireo; the Sun is never a target."
            raise OutOfRange("target", key, "Moon, planets, showpieces, named stars", cure)
        return found

    def search(self, text: str, most: int = MOST_FOUND) -> list[Target]:
        """Return at most ``most`` targets whose names hold a text, the best match first.

        A name that begins with it comes before a word that does, and that before the rest;
        then as they stand.  An empty text gives the first rows.  Source: our own order.
        """
        plain, tight = " ".join(text.casefold().split()), spelled(text)
        if not tight:
            return [self.target(row) for row in range(min(most, len(self)))]
        ranked = [
            (0 if words.startswith(plain) else 1 if f" {plain}" in words else 2, row)
            for row, words in enumerate(self._texts)
            if tight in words or plain in words
        ]
        exact = self._spellings.get(tight)
        ranked = [(-1 if row == exact else rank, row) for rank, row in ranked]
        return [self.target(row) for _, row in nsmallest(most, ranked)]


def spelled(text: str) -> str:
    """Return a name without what people write differently: case, blanks, hyphens.

    Source: our own choice.
    """
    return "".join(text.casefold().replace("-", "").split())


def make_catalogue(entries: Sequence[Entry]) -> Catalogue:
    """Return entries in columns; a label may stand once, other names mean the first that has them.

    Source: the entries.
    """
    spellings: dict[str, int] = {}
    for names in ("label", "name", "also"):
        for row, one in enumerate(entries):
            spellings.setdefault(spelled(getattr(one, names)) or f" {row}", row)
    numbers = {name: np.array([getattr(one, name) for one in entries]) for name in NUMBERS}
    labels = tuple(f"{one.label} {one.name}".strip() for one in entries)
    texts = (f"{label} {one.also}".casefold() for label, one in zip(labels, entries, strict=True))
    return Catalogue(
        keys=tuple("-".join(one.label.casefold().split()) for one in entries),
        labels=labels,
        kinds=tuple(one.kind for one in entries),
        bodies=tuple(one.body for one in entries),
        directions=unit_vectors(numbers["ra_deg"], numbers["dec_deg"]),
        numbers=numbers,
        _shapes={
            shape: np.array([KINDS[one.kind].shape == shape for one in entries], dtype=bool)
            for shape in get_args(Shape)
        },
        _texts=tuple(f"{words} {spelled(words)}" for words in texts),
        _spellings=spellings,
    )


def _detail(kind: str, separation_arcsec: float | None) -> str:
    title = KINDS[kind].title
    return title if separation_arcsec is None else f"{title}, {separation_arcsec:g}″"


@dataclass(frozen=True, slots=True)
class Stars:
    """All stars, brightest first: unit vectors (ICRS, epoch 2026), shape (N, 3), and magnitudes."""

    directions: Floats
    magnitude: Floats


def unit_vectors(ra_deg: Floats, dec_deg: Floats) -> Floats:
    """Return unit vectors, last axis 3, of right ascensions and declinations in degrees.

    Source: rules.md#catalogue.
    """
    ra, dec = np.radians(ra_deg), np.radians(dec_deg)
    parts = [np.cos(dec) * np.cos(ra), np.cos(dec) * np.sin(ra), np.sin(dec)]
    return np.stack(np.broadcast_arrays(*parts), axis=-1)


@cache
def stars() -> Stars:
    """Return the stars to magnitude 9; read once per process.  Source: rules.md#catalogue."""
    with as_file(DATA / "stars.npz") as path, np.load(path) as table:
        directions = unit_vectors(table["ra_deg"].astype(float), table["dec_deg"].astype(float))
        return Stars(directions=directions, magnitude=table["centimag"] / 100.0)


@cache
def catalogue() -> Catalogue:
    """Return the shipped catalogue: Moon and planets, the classic list of 110 and showpieces,
    double stars, stars with a proper name; read once per process.

    Source: OpenNGC; Hipparcos; IAU star names.
    """
    document = json.loads((DATA / "objects.json").read_text("utf-8"))
    bodies = [
        Entry(label=one.label, kind="moon" if one.name == "moon" else "planet", body=one.name)
        for one in BODIES
        if one.name != "sun"
    ]
    objects = [Entry(**_known(one)) for one in document["objects"]]
    doubles = [_double(one) for one in document["doubles"]]
    taken = {one.label for one in doubles}
    stars_by_name = [
        Entry(label=one.pop("name"), kind="star", **one)
        for one in document["stars"]
        if one["name"] not in taken
    ]
    return make_catalogue([*bodies, *objects, *doubles, *stars_by_name])


def _known(values: dict[str, Any]) -> dict[str, Any]:
    return {name: value for name, value in values.items() if value is not None}


def _double(values: dict[str, Any]) -> Entry:
    first, second = values.pop("magnitudes")
    return Entry(
        label=values.pop("name"),
        kind="double star",
        magnitude=min(first, second),
        companion_mag=second,
        **values,
    )


def stars_within(direction: Floats, radius_deg: float) -> tuple[Floats, Floats]:
    """Return directions (N, 3) and magnitudes (N,) of the stars within degrees of a direction.

    Source: rules.md#catalogue.
    """
    table = stars()
    near = table.directions @ direction > np.cos(np.radians(radius_deg))
    return table.directions[near], table.magnitude[near]
