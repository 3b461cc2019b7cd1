"""Jupiter's four bright moons: their own orbits, seen from where Jupiter really stands."""

from dataclasses import dataclass
from datetime import datetime

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.sky.planets import (
    LIGHT_S_PER_AU,
    POLAR_SHARE,
    TT_AHEAD_S,
    pole_direction,
)

MOON_NAMES = ("Io", "Europa", "Ganymede", "Callisto")
J1976_UNIX_S = 208483200.0  # JD 2443000.5, the theory's beginning; Meeus ch. 44
# The theory counts in radii of 71398 km, drawings in the IAU's of 71492 km.
RADIUS_SHARE = 71398 / 71492
# Jupiter's orbit and equator at J2000, deg: node and inclination of the orbit, of the equator on
# the orbit, precession of the theory's equinox B1950 since, obliquity; Meeus ch. 31 and 44.
ORBIT_NODE_DEG, ORBIT_TILT_DEG, EQUATOR_TILT_DEG = 100.464441, 1.303270, 3.120742
SINCE_B1950_DEG, OBLIQUITY_DEG = 0.69842, 23.4392911


@dataclass(frozen=True, slots=True)
class JovianMoon:
    """A moon of Jupiter in equatorial radii: west and north (along its axis), and in front."""

    name: str
    west_radii: float
    north_radii: float
    is_in_front: bool

    @property
    def is_hidden(self) -> bool:
        """Whether it stands behind the disc.  Source: rules.md#planets."""
        return not self.is_in_front and self.is_within_disc

    @property
    def is_within_disc(self) -> bool:
        """Whether it stands before or behind the disc.  Source: rules.md#planets."""
        across = np.hypot(self.west_radii, self.north_radii / POLAR_SHARE["jupiter"])
        return bool(across < 1)


@dataclass(frozen=True, slots=True)
class _Angles:
    """The theory's arguments at a moment, in degrees: mean longitudes, perijoves, nodes."""

    longitude: Floats
    perijove: Floats
    node: Floats
    equator_node: float
    perihelion: float
    anomaly: float
    libration: float


def jovian_moons(moment_utc: datetime, direction: Floats, distance_au: float) -> list[JovianMoon]:
    """Return the four bright moons, right to 0.05 of Jupiter's radius.

    ``direction`` is the unit vector (ICRS) toward Jupiter, at so many astronomical units.

    Source: Meeus, Astronomical Algorithms, 2nd ed., ch. 44: the leading terms of theory E5.
    """
    days = (moment_utc.timestamp() + TT_AHEAD_S - J1976_UNIX_S) / 86400
    angles = _angles(days - distance_au * LIGHT_S_PER_AU / 86400)
    places = _places(angles)
    pole = pole_direction("jupiter")
    assert pole is not None
    north = pole - (pole @ direction) * direction
    north = north / np.linalg.norm(north)
    west = np.cross(direction, north)
    return [
        JovianMoon(name, float(at @ west), float(at @ north), bool(at @ direction < 0))
        for name, at in zip(MOON_NAMES, places, strict=True)
    ]


def _sin(angle_deg: Floats | float) -> Floats:
    return np.asarray(np.sin(np.radians(angle_deg)))


def _cos(angle_deg: Floats | float) -> Floats:
    return np.asarray(np.cos(np.radians(angle_deg)))


def _angles(t: float) -> _Angles:
    swing = 0.33033 * _sin(163.679 + 0.0010512 * t) + 0.03439 * _sin(34.486 - 0.0161731 * t)
    return _Angles(
        longitude=np.array([106.07719, 175.73161, 120.55883, 84.44459])
        + np.array([203.488955790, 101.374724735, 50.317609207, 21.571071177]) * t,
        perijove=np.array([97.0881, 154.8663, 188.1840, 335.2868])
        + np.array([0.16138586, 0.04726307, 0.00712734, 0.00184000]) * t,
        node=np.array([312.3346, 100.4411, 119.1942, 322.6186])
        - np.array([0.13279386, 0.03263064, 0.00717703, 0.00175934]) * t,
        equator_node=316.5182 - 0.00000208 * t,
        perihelion=13.469942,
        anomaly=float(30.23756 + 0.0830925701 * t + swing),
        libration=199.6766 + 0.17379190 * t,
    )


def _true_longitudes_deg(a: _Angles) -> Floats:
    """Return the longitudes with what the moons do to each other, and Jupiter's year to them."""
    l1, l2, l3, l4 = a.longitude
    p1, p2, p3, p4 = a.perijove
    year = 2 * (a.perihelion - a.equator_node)
    more = [
        0.47259 * _sin(2 * (l1 - l2)) - 0.03478 * _sin(p3 - p4)
        + 0.01081 * _sin(l2 - 2 * l3 + p3) + 0.00738 * _sin(a.libration)
        + 0.00713 * _sin(l2 - 2 * l3 + p2)
        - 0.00674 * _sin(p1 + p3 - 2 * a.perihelion - 2 * a.anomaly)
        + 0.00666 * _sin(l2 - 2 * l3 + p4) + 0.00445 * _sin(l1 - p3),
        1.06476 * _sin(2 * (l2 - l3)) + 0.04256 * _sin(l1 - 2 * l2 + p3)
        + 0.03581 * _sin(l2 - p3) + 0.02395 * _sin(l1 - 2 * l2 + p4)
        + 0.01984 * _sin(l2 - p4) - 0.01778 * _sin(a.libration) + 0.01654 * _sin(l2 - p2),
        0.16490 * _sin(l3 - p3) + 0.09081 * _sin(l3 - p4) - 0.06907 * _sin(l2 - l3)
        + 0.03784 * _sin(p3 - p4) + 0.01846 * _sin(2 * (l3 - l4)) - 0.01340 * _sin(a.anomaly)
        - 0.01014 * _sin(year),
        0.84287 * _sin(l4 - p4) + 0.03431 * _sin(p4 - p3) + 0.03305 * _sin(year)
        - 0.03211 * _sin(a.anomaly) - 0.01862 * _sin(l4 - p3)
        + 0.01186 * _sin(a.equator_node - a.node[3]),
    ]  # fmt: skip
    return np.asarray(a.longitude + np.array(more))


def _latitudes(a: _Angles, longitudes_deg: Floats) -> Floats:
    """Return the tangents of the moons' latitudes over Jupiter's equator: their own inclinations.

    A row is a moon; its columns go with the four nodes and that of Jupiter's equator.
    """
    shares = np.array([
        [0.0006393, 0.0001825, 0.0000329, 0.0, -0.0000311],
        [0.0, 0.0081004, 0.0004512, 0.0001160, -0.0003284],
        [0.0, -0.0002797, 0.0032402, 0.0006847, -0.0016911],
        [0.0, 0.0, -0.0005112, 0.0044134, -0.0076579],
    ])  # fmt: skip
    nodes = np.append(a.node, a.equator_node)
    return np.asarray((shares * _sin(longitudes_deg[:, np.newaxis] - nodes)).sum(axis=1))


def _radii(a: _Angles) -> Floats:
    l1, l2, l3, l4 = a.longitude
    _, _, p3, p4 = a.perijove
    mean = np.array([5.90569, 9.39657, 14.98832, 26.36273]) * RADIUS_SHARE
    more = [
        -0.0041339 * _cos(2 * (l1 - l2)),
        0.0093848 * _cos(l1 - l2),
        -0.0014388 * _cos(l3 - p3) - 0.0007919 * _cos(l3 - p4) + 0.0006342 * _cos(l2 - l3),
        -0.0073546 * _cos(l4 - p4),
    ]
    return np.asarray(mean * (1 + np.array(more)))


def _places(a: _Angles) -> Floats:
    """Return where the moons stand from Jupiter's middle (4, 3): ICRS, in equatorial radii."""
    longitudes = _true_longitudes_deg(a)
    latitude = np.arctan(_latitudes(a, longitudes))
    along = np.radians(longitudes - a.equator_node)
    flat = np.cos(latitude)
    at = np.stack([np.cos(along) * flat, np.sin(along) * flat, np.sin(latitude)])
    at = _about_x(at, EQUATOR_TILT_DEG)
    at = _about_z(at, a.equator_node + SINCE_B1950_DEG - ORBIT_NODE_DEG)
    at = _about_z(_about_x(at, ORBIT_TILT_DEG), ORBIT_NODE_DEG)
    return np.asarray((_about_x(at, OBLIQUITY_DEG) * _radii(a)).T)


def _about_x(at: Floats, angle_deg: float) -> Floats:
    cosine, sine = float(_cos(angle_deg)), float(_sin(angle_deg))
    x, y, z = at
    return np.stack([x, y * cosine - z * sine, y * sine + z * cosine])


def _about_z(at: Floats, angle_deg: float) -> Floats:
    cosine, sine = float(_cos(angle_deg)), float(_sin(angle_deg))
    x, y, z = at
    return np.stack([x * cosine - y * sine, x * sine + y * cosine, z])
