"""Rings and poles of planets, as far as a small telescope shows them."""

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.sky.catalogue import unit_vectors
from jade_perch.core.sky.ephemeris import BodyName

# North poles (ICRS, deg) and polar over equatorial radius: IAU WGCCRE 2015.
POLES_DEG: dict[BodyName, tuple[float, float]] = {
    "jupiter": (268.057, 64.495),
    "saturn": (40.589, 83.537),
}
POLAR_SHARE: dict[BodyName, float] = {"jupiter": 0.9351, "saturn": 0.9020}
RING_INNER, RING_OUTER = 1.526, 2.269  # rings B to A in Saturn's equatorial radii; IAU 2015


def pole_direction(body: BodyName) -> Floats | None:
    """Return the unit vector (ICRS) of a body's north pole, or None where it is not shown.

    Source: rules.md#planets.
    """
    pole = POLES_DEG.get(body)
    return None if pole is None else unit_vectors(np.array(pole[0]), np.array(pole[1]))


def ring_tilt_deg(direction: Floats) -> float:
    """Return the tilt of Saturn's rings to the line of sight, north face seen positive.

    ``direction`` is the unit vector (ICRS) toward Saturn.  Source: Meeus ch. 45, by vectors.
    """
    pole = unit_vectors(np.array(POLES_DEG["saturn"][0]), np.array(POLES_DEG["saturn"][1]))
    return float(np.degrees(np.arcsin(-np.dot(pole, direction))))
