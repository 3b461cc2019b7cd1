"""Rings, poles and bright moons of planets, as far as a small telescope shows them."""

from dataclasses import dataclass
from datetime import datetime

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
MOON_NAMES = ("Io", "Europa", "Ganymede", "Callisto")
J2000_UNIX_S = 946727935.816  # 2000-01-01T12:00 TT in Unix seconds


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
        across = np.hypot(self.west_radii, self.north_radii / POLAR_SHARE["jupiter"])
        return not self.is_in_front and bool(across < 1)


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


def _sin(angle_deg: float) -> float:
    return float(np.sin(np.radians(angle_deg)))


def _cos(angle_deg: float) -> float:
    return float(np.cos(np.radians(angle_deg)))


def jovian_moons(moment_utc: datetime) -> list[JovianMoon]:
    """Return the four bright moons, right to about a tenth of Jupiter's radius.

    Source: Meeus, Astronomical Algorithms, 2nd ed., ch. 44, lower accuracy.
    """
    d = (moment_utc.timestamp() - J2000_UNIX_S) / 86400

    v = 172.74 + 0.00111588 * d
    m = 357.529 + 0.9856003 * d
    n = 20.020 + 0.0830853 * d + 0.329 * _sin(v)
    j = 66.115 + 0.9025179 * d - 0.329 * _sin(v)
    b = 5.555 * _sin(n) + 0.168 * _sin(2 * n)
    k = j + 1.915 * _sin(m) + 0.020 * _sin(2 * m) - b
    sun_earth = 1.00014 - 0.01671 * _cos(m) - 0.00014 * _cos(2 * m)
    sun_jupiter = 5.20872 - 0.25208 * _cos(n) - 0.00611 * _cos(2 * n)
    distance = (sun_jupiter**2 + sun_earth**2 - 2 * sun_jupiter * sun_earth * _cos(k)) ** 0.5
    phase = float(np.degrees(np.arcsin(sun_earth / distance * _sin(k))))
    longitude = 34.35 + 0.083091 * d + 0.329 * _sin(v) + b
    tilt_sun = 3.12 * _sin(longitude + 42.8)
    tilt = (
        tilt_sun
        - 2.22 * _sin(phase) * _cos(longitude + 22)
        - 1.30 * (sun_jupiter - distance) / distance * _sin(longitude - 100.5)
    )
    t = d - distance / 173
    shift = phase - b
    u1 = 163.8069 + 203.4058646 * t + shift
    u2 = 358.4140 + 101.2916335 * t + shift
    u3 = 5.7176 + 50.2345180 * t + shift
    u4 = 224.8092 + 21.4879800 * t + shift
    g, h = 331.18 + 50.310482 * t, 87.45 + 21.569231 * t
    angles = (
        u1 + 0.473 * _sin(2 * (u1 - u2)),
        u2 + 1.065 * _sin(2 * (u2 - u3)),
        u3 + 0.165 * _sin(g),
        u4 + 0.843 * _sin(h),
    )
    radii = (
        5.9057 - 0.0244 * _cos(2 * (u1 - u2)),
        9.3966 - 0.0882 * _cos(2 * (u2 - u3)),
        14.9883 - 0.0216 * _cos(g),
        26.3627 - 0.1939 * _cos(h),
    )
    return [
        JovianMoon(name, r * _sin(u), -r * _cos(u) * _sin(tilt), _cos(u) > 0)
        for name, r, u in zip(MOON_NAMES, radii, angles, strict=True)
    ]
