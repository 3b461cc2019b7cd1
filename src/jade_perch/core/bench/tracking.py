"""Tracking budget: how long a target stays in a field, followed as this mount would follow it.

Exact rotations in the horizon frame (east, north, up); small-angle sums fail near the zenith.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from jade_perch.core.arrays import Floats
from jade_perch.core.constants import SIDEREAL_ARCMIN_PER_MIN
from jade_perch.core.mounts import Drive

SIDEREAL_DEG_PER_MIN = SIDEREAL_ARCMIN_PER_MIN / 60
UP = np.array([0.0, 0.0, 1.0])


@dataclass(frozen=True, slots=True)
class Standing:
    """How a mount stands: base tilt, its north against true north (east positive), its pole.

    ``pole_altitude_error_deg`` is the polar axis over the latitude (equatorial mounts only).
    """

    tilt_arcmin: float = 0.0
    low_azimuth_deg: float = 0.0
    azimuth_error_deg: float = 0.0
    pole_altitude_error_deg: float = 0.0


def horizon_vectors(altitude_deg: ArrayLike, azimuth_deg: ArrayLike) -> Floats:
    """Return unit vectors (east, north, up), last axis 3, of altitudes and azimuths in degrees.

    Source: rules.md#tracking.
    """
    altitude, azimuth = np.radians(altitude_deg), np.radians(azimuth_deg)
    flat = np.cos(altitude)
    parts = [flat * np.sin(azimuth), flat * np.cos(azimuth), np.sin(altitude)]
    return np.stack(np.broadcast_arrays(*parts), axis=-1)


def turned(vectors: Floats, axis: Floats, angle_deg: ArrayLike) -> Floats:
    """Return vectors (N, 3) turned about a unit axis by angles (T,), right-handed: (N, T, 3).

    Source: Rodrigues' rotation formula.
    """
    angle = np.radians(np.atleast_1d(np.asarray(angle_deg, dtype=float)))[:, np.newaxis]
    one = np.atleast_2d(vectors)[:, np.newaxis, :]
    along = (one @ axis)[..., np.newaxis] * axis
    return np.asarray(
        one * np.cos(angle) + np.cross(axis, one) * np.sin(angle) + along * (1 - np.cos(angle))
    )


def base_matrix(standing: Standing) -> Floats:
    """Return the 3 by 3 matrix from a mount's own level, north-aligned frame to the true one.

    Source: rules.md#tracking.
    """
    azimuth = np.radians(standing.low_azimuth_deg)
    axis = np.array([-np.cos(azimuth), np.sin(azimuth), 0.0])  # up × the low side
    frame = turned(np.eye(3), UP, -standing.azimuth_error_deg)[:, 0]
    return np.asarray(turned(frame, axis, standing.tilt_arcmin / 60)[:, 0].T)


def sky_after(start: Floats, latitude_deg: float, minutes: Floats) -> Floats:
    """Return where fixed stars at (N, 3) stand after minutes (T,): (N, T, 3).

    Source: Earth's rotation, 15.041067 arcmin a minute westward; Meeus ch. 12.
    """
    pole = horizon_vectors(latitude_deg, 0.0)
    return turned(start, pole, -SIDEREAL_DEG_PER_MIN * minutes)


def followed(
    drive: Drive, standing: Standing, start: Floats, latitude_deg: float, minutes: Floats
) -> Floats:
    """Return where a mount points after minutes, each target centred at the start: (N, T, 3).

    ``hand`` stays put; ``equatorial`` turns about its own polar axis at the sidereal rate.
    ``altaz`` takes its base for level and turned to north, and so follows what it believes it
    points at: about the pole as it lies in its own frame.  A mount that was corrected on stars
    by its own means does better.

    Source: rules.md#tracking.
    """
    if drive == "hand":
        return np.broadcast_to(start[:, np.newaxis, :], (len(start), len(minutes), 3))
    error_deg = standing.pole_altitude_error_deg if drive == "equatorial" else 0.0
    lean_deg = error_deg if latitude_deg >= 0 else -error_deg
    axis = base_matrix(standing) @ horizon_vectors(latitude_deg + lean_deg, 0.0)
    return turned(start, axis, -SIDEREAL_DEG_PER_MIN * minutes)


def offsets_arcmin(
    drive: Drive, standing: Standing, sky: Floats, latitude_deg: float, minutes: Floats
) -> Floats:
    """Return how far each target has left the middle after minutes, in arcmin: (N, T).

    ``sky`` (N, T, 3) is where the targets really are, starting at zero minutes; stars move as
    ``sky_after`` says, the Moon a little slower.

    Source: rules.md#tracking.
    """
    apart = sky - followed(drive, standing, sky[:, 0], latitude_deg, minutes)
    chord = np.linalg.norm(apart, axis=-1)
    return np.asarray(np.degrees(2 * np.arcsin(np.clip(chord / 2, 0, 1))) * 60)


def minutes_inside(offset_arcmin: Floats, minutes: Floats, radii_arcmin: Floats) -> Floats:
    """Return when each target first leaves each field, in minutes: (N, R); inf if it stays.

    ``offset_arcmin`` (N, T) belongs to ``minutes`` (T,), which start at zero; in between is
    interpolated.

    Source: rules.md#tracking.
    """
    farthest = np.maximum.accumulate(offset_arcmin, axis=1)
    outside = farthest[:, np.newaxis, :] > radii_arcmin[np.newaxis, :, np.newaxis]
    index = np.argmax(outside, axis=2)
    left = outside.any(axis=2) & (index > 0)
    safe = np.maximum(index, 1)
    rows = np.arange(len(offset_arcmin))[:, np.newaxis]
    before, after = farthest[rows, safe - 1], farthest[rows, safe]
    step = np.where(after > before, after - before, 1.0)
    share = (radii_arcmin[np.newaxis, :] - before) / step
    when = minutes[safe - 1] + share * (minutes[safe] - minutes[safe - 1])
    return np.where(left, when, np.where(outside[..., 0], 0.0, np.inf))


def hand_rates_arcmin_per_min(
    altitude_deg: ArrayLike, azimuth_deg: ArrayLike, latitude_deg: float
) -> tuple[Floats, Floats]:
    """Return how fast a star moves in altitude and in azimuth, in arcmin a minute.

    Source: rules.md#tracking; Meeus ch. 13 differentiated.  The azimuth rate has no end at
    the zenith.
    """
    azimuth, latitude = np.radians(azimuth_deg), np.radians(latitude_deg)
    tangent = np.tan(np.radians(np.asarray(altitude_deg, dtype=float)))
    up = SIDEREAL_ARCMIN_PER_MIN * np.cos(latitude) * np.sin(azimuth)
    round_ = SIDEREAL_ARCMIN_PER_MIN * (
        np.sin(latitude) - np.cos(latitude) * np.cos(azimuth) * tangent
    )
    return np.asarray(up), np.asarray(round_)


def zenith_zone_from_deg(latitude_deg: float, fastest_times_sidereal: float) -> float:
    """Return the altitude above which an altazimuth mount cannot follow, in degrees.

    There the azimuth of a star crossing the meridian runs faster than so many times the
    sidereal rate.  At a pole nothing does, and the answer is 90.

    Source: the azimuth rate on the meridian, ω·(sin φ + cos φ·tan alt), solved for alt.
    """
    latitude = np.radians(abs(latitude_deg))
    cosine = float(np.cos(latitude))
    if cosine < 1e-9:
        return 90.0
    return float(np.degrees(np.arctan((fastest_times_sidereal - np.sin(latitude)) / cosine)))
