"""The shipped catalogue: stars to magnitude 9, the classic list, showpieces, double stars.

Built by ``tools/build_catalogue.py`` from OpenNGC (CC BY-SA 4.0) and Hipparcos (van Leeuwen 2007).
"""

import json
from dataclasses import dataclass
from functools import cache
from importlib.resources import as_file, files
from typing import Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.fields import Frozen

DATA = files("jade_perch.core.sky") / "data"
CATALOGUE_FAINTEST_MAG = 9.0

SkyKind = Literal[
    "galaxy",
    "open cluster",
    "cluster with nebula",
    "star cloud",
    "globular cluster",
    "planetary nebula",
    "nebula",
    "supernova remnant",
    "double star",
    "asterism",
    "star",
]


class SkyObject(Frozen):
    """A thing among the stars; sizes in arcmin, position angle from north through east."""

    label: str
    name: str
    also: str
    kind: SkyKind
    ra_deg: float
    dec_deg: float
    major_arcmin: float
    minor_arcmin: float
    position_angle_deg: float | None
    magnitude: float | None


class DoubleStar(Frozen):
    """A double star, about 2020: separation in arcsec, position angle, both magnitudes."""

    name: str
    ra_deg: float
    dec_deg: float
    separation_arcsec: float
    position_angle_deg: float
    magnitudes: tuple[float, float]


class NamedStar(Frozen):
    """A star with a proper name."""

    name: str
    ra_deg: float
    dec_deg: float
    magnitude: float


@dataclass(frozen=True, slots=True)
class Stars:
    """All stars, brightest first: unit vectors (ICRS, epoch 2026), shape (N, 3), and magnitudes."""

    directions: Floats
    magnitude: Floats


def unit_vectors(ra_deg: Floats, dec_deg: Floats) -> Floats:
    """Return unit vectors, last axis 3, of right ascensions and declinations in degrees."""
    ra, dec = np.radians(ra_deg), np.radians(dec_deg)
    parts = [np.cos(dec) * np.cos(ra), np.cos(dec) * np.sin(ra), np.sin(dec)]
    return np.stack(np.broadcast_arrays(*parts), axis=-1)


@cache
def stars() -> Stars:
    """Return the stars to magnitude 9; read once per process."""
    with as_file(DATA / "stars.npz") as path, np.load(path) as table:
        directions = unit_vectors(table["ra_deg"].astype(float), table["dec_deg"].astype(float))
        return Stars(directions=directions, magnitude=table["centimag"] / 100.0)


@cache
def _document() -> dict[str, list[dict[str, object]]]:
    document: dict[str, list[dict[str, object]]] = json.loads(
        (DATA / "objects.json").read_text("utf-8")
    )
    return document


@cache
def sky_objects() -> tuple[SkyObject, ...]:
    """Return the classic list of 110 and the showpieces."""
    return tuple(SkyObject.model_validate(one) for one in _document()["objects"])


@cache
def double_stars() -> tuple[DoubleStar, ...]:
    """Return the showpiece double stars."""
    return tuple(DoubleStar.model_validate(one) for one in _document()["doubles"])


@cache
def named_stars() -> tuple[NamedStar, ...]:
    """Return the stars with a proper name."""
    return tuple(NamedStar.model_validate(one) for one in _document()["stars"])


def stars_within(direction: Floats, radius_deg: float) -> tuple[Floats, Floats]:
    """Return directions (N, 3) and magnitudes (N,) of the stars within degrees of a direction."""
    table = stars()
    near = table.directions @ direction > np.cos(np.radians(radius_deg))
    return table.directions[near], table.magnitude[near]
