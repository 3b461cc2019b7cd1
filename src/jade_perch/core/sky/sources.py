"""What the catalogue's targets send: the columns that are held against the eye's threshold."""

from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from jade_perch.core.arrays import Floats, Integers, rows_of
from jade_perch.core.sky.brightness import luminance_cd_m2
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.ephemeris import BodyName
from jade_perch.core.sky.seen import (
    BIG_SHELL_ARCMIN,
    BIG_SHELL_EDGE,
    CORE_LIGHT,
    EDGE,
    STARRY,
    THIRD_STAR_MAG,
    Glasses,
    Seen,
    Sources,
    see,
)

# Typical magnitudes; each varies by one and more, except the two outermost.  Our rounding.
BODY_MAG: dict[BodyName, float] = {
    "moon": -10.0,
    "mercury": 0.0,
    "venus": -4.0,
    "mars": 0.7,
    "jupiter": -2.3,
    "saturn": 0.7,
    "uranus": 5.7,
    "neptune": 7.8,
}


def sources_of(catalogue: Catalogue, rows: Integers) -> Sources:
    """Return what some rows send.

    Source: the columns; where they are empty, typical values of each kind, rules.md#seen.
    """
    return rows_of(_every_source(catalogue), rows)


@lru_cache(maxsize=4)
def _every_source(catalogue: Catalogue) -> Sources:
    """Return what every row of a catalogue sends: it depends on nothing else."""
    numbers, kinds, bodies = catalogue.numbers, catalogue.kinds, catalogue.bodies
    is_pair = np.isfinite(numbers["companion_mag"])
    magnitude = np.array([BODY_MAG.get(b, np.nan) if b else np.nan for b in bodies], dtype=float)
    magnitude = np.where(np.isfinite(magnitude), magnitude, numbers["magnitude"])
    typical = np.array([CORE_LIGHT.get(kind, np.nan) for kind in kinds], dtype=float)
    known = np.isfinite(numbers["core_share"])
    starry = np.array([kind in STARRY for kind in kinds], dtype=bool)
    third = np.where(starry, numbers["magnitude"] + THIRD_STAR_MAG, np.nan)
    listed = np.isfinite(numbers["third_star_mag"])
    is_star = np.array(
        [kind == "star" or body is not None for kind, body in zip(kinds, bodies, strict=True)],
        dtype=bool,
    )
    return Sources(
        magnitude=magnitude,
        major_arcmin=numbers["major_arcmin"],
        minor_arcmin=numbers["minor_arcmin"],
        core_light=np.where(known, numbers["core_share"], typical),
        edge=_edge(kinds, numbers["major_arcmin"]),
        star_mag=np.where(listed, numbers["third_star_mag"], third),
        is_point=(is_star & ~is_pair).astype(float),
        separation_arcsec=numbers["separation_arcsec"],
        companion_mag=numbers["companion_mag"],
    )


def _edge(kinds: Sequence[str], major_arcmin: Floats) -> Floats:
    """Return how many times more contrast each wants than an even patch."""
    usual = np.array([EDGE.get(kind, 1.0) for kind in kinds], dtype=float)
    is_shell = np.array([kind == "planetary nebula" for kind in kinds], dtype=bool)
    return np.where(is_shell & (major_arcmin >= BIG_SHELL_ARCMIN), BIG_SHELL_EDGE, usual)


def see_overhead(
    catalogue: Catalogue, rows: Integers, glasses: Glasses, sky_mpsas: float, field_factor: float
) -> Seen:
    """Return how rows stand against the threshold overhead, under a sky without Moon.

    Source: rules.md#seen.
    """
    sky, dimmed = np.full(rows.size, luminance_cd_m2(sky_mpsas)), np.zeros(rows.size)
    return see(sources_of(catalogue, rows), glasses, sky, dimmed, field_factor)
