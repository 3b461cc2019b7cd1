"""Rings and poles of planets, as far as a small telescope shows them."""

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.sky.catalogue import unit_vectors
from jade_perch.core.sky.ephemeris import BodyName

# North poles (ICRS, deg) and polar over equatorial radius: IAU WGCCRE 2015.
POLES_DEG: dict[BodyName, tuple[float, float]] = {
    "jupiter": (268.057, 64.495),
    "saturn": (40.589, 83.537),
    "mars": (317.681, 52.886),
}
POLAR_SHARE: dict[BodyName, float] = {"jupiter": 0.9351, "saturn": 0.9020}
# Prime meridians W at J2000 and their motion a day, deg, by system; IAU WGCCRE 2009.
MERIDIANS_DEG: dict[BodyName, dict[str, tuple[float, float]]] = {
    "jupiter": {"I": (67.1, 877.9), "II": (43.3, 870.27)},
    "mars": {"": (176.63, 350.89198226)},
    "saturn": {"III": (38.90, 810.7939024)},
}
J2000_UNIX_S = 946728000.0  # 2000 January 1, 12 h
TT_AHEAD_S = 69.184  # of UTC since 2017; less than a minute off in living memory
LIGHT_S_PER_AU = 499.004784  # IAU 2012 with the speed of light
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


def central_meridians_deg(
    body: BodyName, direction: Floats, distance_au: float, unix_s: float
) -> dict[str, float]:
    """Return the longitude in the middle of a planet's disc, west positive, by system of rotation.

    ``direction`` is the unit vector (ICRS) toward it, at so many astronomical units; light time
    counts.  Empty for planets whose surface does not show.

    Source: IAU WGCCRE 2009; good to a few tenths of a degree.
    """
    pole = pole_direction(body)
    if pole is None or body not in MERIDIANS_DEG:
        return {}
    days = (unix_s + TT_AHEAD_S - J2000_UNIX_S - distance_au * LIGHT_S_PER_AU) / 86400
    node = np.cross(np.array([0.0, 0.0, 1.0]), pole)
    node = node / np.linalg.norm(node)
    along = np.cross(pole, node)
    seen = np.degrees(np.arctan2(-direction @ along, -direction @ node))
    systems = MERIDIANS_DEG[body].items()
    return {name: float((at + rate * days - seen) % 360) for name, (at, rate) in systems}
