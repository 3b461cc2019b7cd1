"""The shipped catalogue in columns: everything to look at by name, and the stars to magnitude 9.

Built by ``tools/build_catalogue.py`` from OpenNGC (CC BY-SA 4.0) and Hipparcos (van Leeuwen 2007);
the Moon's features after the IAU's nomenclature.
"""

import csv
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, fields, replace
from functools import cache, lru_cache
from heapq import nsmallest
from importlib.resources import as_file, files
from math import inf, isfinite
from typing import Any, get_args

import numpy as np

from jade_perch.core.arrays import Floats, Truths
from jade_perch.core.errors import OutOfRange
from jade_perch.core.sky.ephemeris import BODIES, BodyName
from jade_perch.core.sky.targets import KINDS, Shape, Target

DATA = files("jade_perch.core.sky") / "data"
CATALOGUE_FAINTEST_MAG = 9.0
MOST_FOUND = 45  # rows of one search; more are not read, and the answer stays under 20 kB
TARGETS_KEPT = 2048


@dataclass(frozen=True, slots=True)
class Entry:
    """One row to be: what ``Target`` says, names beside its label, and what its light is made of.

    ``core_share`` is the part of a galaxy's light from the middle tenth of its diameter,
    ``third_star_mag`` a cluster's third brightest member; ``feature`` is what it is on the Moon.
    """

    label: str
    kind: str
    name: str = ""
    also: str = ""
    constellation: str = ""
    feature: str = ""
    body: BodyName | None = None
    ra_deg: float = np.nan
    dec_deg: float = np.nan
    magnitude: float = np.nan
    major_arcmin: float = np.nan
    minor_arcmin: float = np.nan
    position_angle_deg: float = np.nan
    separation_arcsec: float = np.nan
    companion_mag: float = np.nan
    core_share: float = np.nan
    third_star_mag: float = np.nan
    moon_latitude_deg: float = np.nan
    moon_longitude_deg: float = np.nan
    across_km: float = np.nan


NUMBERS = tuple(field.name for field in fields(Entry) if field.type is float)


@dataclass(frozen=True, eq=False)
class Catalogue:
    """Targets in columns of one length N, bodies first; numbers that are not known are NaN.

    ``directions`` are ICRS unit vectors, shape (N, 3), NaN for what moves; ``is_body`` marks Moon
    and planets themselves, not what lies on the Moon.  It is told apart as an object, so that what
    is worked out of it can be kept.
    """

    keys: tuple[str, ...]
    labels: tuple[str, ...]
    kinds: tuple[str, ...]
    constellations: tuple[str, ...]
    features: tuple[str, ...]
    bodies: tuple[BodyName | None, ...]
    is_body: Truths
    directions: Floats
    numbers: Mapping[str, Floats]
    _shapes: Mapping[Shape, Truths]
    _names: tuple[str, ...]
    _about: tuple[str, ...]
    _spellings: Mapping[str, int]

    def __len__(self) -> int:
        return len(self.keys)

    def has_shape(self, *shapes: Shape) -> Truths:
        """Return which rows are of some shapes, shape (N,).  Source: the table of kinds."""
        return np.asarray(np.logical_or.reduce([self._shapes[shape] for shape in shapes]))

    def target(self, row: int) -> Target:
        """Return one row as a target, made once for all who ask.  Source: the columns."""
        return _target(self, row)

    def only(self, rows: Sequence[int]) -> "Catalogue":
        """Return some rows as a catalogue of their own, in that order.  Source: the columns."""
        at = np.asarray(rows, dtype=int)
        place = {row: n for n, row in enumerate(rows)}
        texts = ("keys", "labels", "kinds", "constellations", "features", "bodies", "_names",
                 "_about")  # fmt: skip
        return replace(
            self,
            **{name: tuple(getattr(self, name)[row] for row in rows) for name in texts},
            is_body=self.is_body[at],
            directions=self.directions[at],
            numbers={name: column[at] for name, column in self.numbers.items()},
            _shapes={shape: rows_of[at] for shape, rows_of in self._shapes.items()},
            _spellings={name: place[row] for name, row in self._spellings.items() if row in place},
        )

    def bodies_only(self) -> list[Target]:
        """Return Moon and planets.  Source: the rows that are bodies."""
        return [self.target(row) for row in np.flatnonzero(self.is_body).tolist()]

    def row_of(self, key: str) -> int | None:
        """Return the row of what a key or name means, or None.  Source: as ``find``."""
        return self._spellings.get(spelled(key))

    def find(self, key: str) -> Target | None:
        """Return what a key, a label or another of its names means; None for nothing known.

        Upper and lower case, blanks and hyphens do not matter.  Source: the names it was built of.
        """
        row = self.row_of(key)
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

        A name that begins with it comes before a word that does, and that before the rest; then
        as they stand.  After them come those all of whose words are met by name, kind or
        constellation ("galaxy leo"), the brightest first.  An empty text gives the first rows.

        Source: our own order.
        """
        plain, tight = " ".join(text.casefold().split()), spelled(text)
        if not tight:
            return [self.target(row) for row in range(min(most, len(self)))]
        exact, words = self._spellings.get(tight), plain.split()
        return [
            self.target(row)
            for *_, row in nsmallest(most, self._ranked(plain, tight, words, exact))
        ]

    def _ranked(
        self, plain: str, tight: str, words: Sequence[str], exact: int | None
    ) -> Iterator[tuple[int, float, int]]:
        """Yield how well each row meets a text, then how bright it is, and the row."""
        magnitudes = self.numbers["magnitude"]
        for row, names in enumerate(self._names):
            if row == exact:
                yield -1, 0.0, row
            elif tight in names or plain in names:
                rank = 0 if names.startswith(plain) else 1 if f" {plain}" in names else 2
                yield rank, 0.0, row
            elif all(f" {word}" in self._about[row] for word in words):
                bright = float(magnitudes[row])
                yield 3, bright if isfinite(bright) else inf, row


@lru_cache(maxsize=TARGETS_KEPT)
def _target(catalogue: Catalogue, row: int) -> Target:
    known = {
        name: float(column[row])
        for name, column in catalogue.numbers.items()
        if name in Target.model_fields and np.isfinite(column[row])
    }
    return Target(
        key=catalogue.keys[row],
        label=catalogue.labels[row],
        kind=catalogue.kinds[row],
        detail=_detail(catalogue.kinds[row], catalogue.features[row], known),
        constellation=catalogue.constellations[row],
        body=catalogue.bodies[row],
        **known,
    )


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
    numbers = {
        name: np.array([getattr(one, name) for one in entries], dtype=float) for name in NUMBERS
    }
    labels = tuple(f"{one.label} {one.name}".strip() for one in entries)
    called = [f"{label} {one.also}".casefold() for label, one in zip(labels, entries, strict=True)]
    return Catalogue(
        keys=tuple("-".join(one.label.casefold().split()) for one in entries),
        labels=labels,
        kinds=tuple(one.kind for one in entries),
        constellations=tuple(one.constellation for one in entries),
        features=tuple(one.feature for one in entries),
        bodies=tuple(one.body for one in entries),
        is_body=np.array([one.body is not None and not one.feature for one in entries], dtype=bool),
        directions=unit_vectors(numbers["ra_deg"], numbers["dec_deg"]),
        numbers=numbers,
        _shapes={
            shape: np.array([KINDS[one.kind].shape == shape for one in entries], dtype=bool)
            for shape in get_args(Shape)
        },
        _names=tuple(f"{words} {spelled(words)}" for words in called),
        _about=tuple(_about(words, one) for words, one in zip(called, entries, strict=True)),
        _spellings=spellings,
    )


def _about(names: str, one: Entry) -> str:
    where = f"{one.constellation} {constellation_names().get(one.constellation, '')}"
    return f" {names} {one.kind} {where} {one.feature}".casefold()


def _detail(kind: str, feature: str, known: Mapping[str, float]) -> str:
    title = KINDS[kind].title
    if feature:
        return f"{feature} on the Moon, {known['across_km']:.0f} km"
    separation_arcsec = known.get("separation_arcsec")
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
    """Return the shipped catalogue: Moon and planets, the classic list of 110, everything a large
    telescope could show, double stars, stars with a proper name, the Moon's features; read once.

    Source: OpenNGC; Hipparcos; IAU star names and lunar nomenclature.
    """
    bodies = [
        Entry(label=one.label, kind="moon" if one.name == "moon" else "planet", body=one.name)
        for one in BODIES
        if one.name != "sun"
    ]
    objects = [_object(row) for row in _table("objects.csv")]
    return make_catalogue(
        [*bodies, *objects, *(_feature(row) for row in _table("moon_features.csv"))]
    )


@cache
def constellation_names() -> dict[str, str]:
    """Return the constellations' names by their three letters.  Source: IAU, as shipped."""
    return {row["letters"]: row["name"] for row in _table("constellations.csv")}


def _table(name: str) -> list[dict[str, str]]:
    return list(csv.DictReader((DATA / name).read_text("utf-8").splitlines()))


def _object(row: Mapping[str, str]) -> Entry:
    known: dict[str, Any] = {
        name: float(text) if name in NUMBERS else text for name, text in row.items() if text
    }
    return Entry(**known)


def _feature(row: Mapping[str, str]) -> Entry:
    """Return a feature of the Moon; craters say so, since stars have some of their names too."""
    name = row["name"]
    return Entry(
        label=f"Crater {name}" if row["feature"] == "crater" else name,
        kind="Moon feature",
        feature=row["feature"],
        body="moon",
        moon_latitude_deg=float(row["latitude_deg"]),
        moon_longitude_deg=float(row["longitude_deg"]),
        across_km=float(row["across_km"]),
    )


def stars_within(direction: Floats, radius_deg: float) -> tuple[Floats, Floats]:
    """Return directions (N, 3) and magnitudes (N,) of the stars within degrees of a direction.

    Source: rules.md#catalogue.
    """
    table = stars()
    near = table.directions @ direction > np.cos(np.radians(radius_deg))
    return table.directions[near], table.magnitude[near]
