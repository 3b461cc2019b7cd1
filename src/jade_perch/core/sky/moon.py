"""The Moon's face: libration, where the Sun stands over it, and what the low light shows."""

from datetime import datetime

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.constants import AU_KM
from jade_perch.core.fields import Frozen
from jade_perch.core.sky.catalogue import Catalogue
from jade_perch.core.sky.ephemeris import (
    INDEX,
    SunAndMoon,
    Track,
    diameter_arcsec,
    make_moment,
    separation_deg,
)
from jade_perch.core.sky.jovian import OBLIQUITY_DEG
from jade_perch.core.sky.planets import J2000_UNIX_S, TT_AHEAD_S
from jade_perch.core.sky.targets import Target

LOW_LIGHT_DEG = 8.0  # the Sun so high at most over what stands out best; rules.md#moon
NEAREST_LIMB_DEG = 80.0  # farther from the middle of the face all is foreshortened; our choice
LAST_LIMB_DEG = 90.0  # beyond it is the far side
SYNODIC_DAYS = 29.530588  # from new Moon to new Moon, the mean; Meeus ch. 49
# Arguments E1 to E13 at J2000 and their daily motion in degrees; IAU WGCCRE 2009.
ARGUMENTS = np.array([
    (125.045, -0.0529921), (250.089, -0.1059842), (260.008, 13.0120009), (176.625, 13.3407154),
    (357.529, 0.9856003), (311.589, 26.4057084), (134.963, 13.0649930), (276.617, 0.3287146),
    (34.226, 1.7484877), (15.134, -0.1589763), (119.743, 0.0036096), (239.961, 0.1643573),
    (25.053, 12.9590088),
])  # fmt: skip
POLE_RA = np.array([-3.8787, -0.1204, 0.07, -0.0172, 0, 0.0072, 0, 0, 0, -0.0052, 0, 0, 0.0043])
POLE_DEC = np.array([
    1.5419, 0.0239, -0.0278, 0.0068, 0, -0.0029, 0.0009, 0, 0, 0.0008, 0, 0, -0.0009,
])  # fmt: skip
TURN = np.array([
    3.561, 0.1208, -0.0642, 0.0158, 0.0252, -0.0066, -0.0047, -0.0046, 0.0028, 0.0052, 0.0040,
    0.0019, -0.0044,
])  # fmt: skip


class LitFeature(Frozen):
    """A feature near the terminator and how high the Sun stands over it."""

    key: str
    label: str
    detail: str
    sun_altitude_deg: float
    across_arcsec: float


class MoonFace(Frozen):
    """The Moon as it looks from a place at a moment; libration east and north positive.

    ``colongitude_deg`` is the selenographic colongitude of the Sun; ``features`` those that the
    low light brings out, the largest first.
    """

    at_utc: datetime
    lit_percent: float
    is_waxing: bool
    age_days: float
    elongation_deg: float
    diameter_arcmin: float
    libration_longitude_deg: float
    libration_latitude_deg: float
    colongitude_deg: float
    subsolar_latitude_deg: float
    features: list[LitFeature]


def moon_axes(days: float) -> Floats:
    """Return the rotation from ICRS to the Moon's own axes (x to the mean middle of its face).

    ``days`` counts from J2000 in terrestrial time.  Right to about 0.02°.

    Source: IAU WGCCRE 2009, Celestial Mechanics 109:101, the Moon's pole and prime meridian.
    """
    angles = np.radians(ARGUMENTS[:, 0] + ARGUMENTS[:, 1] * days)
    centuries = days / 36525
    ra = np.radians(269.9949 + 0.0031 * centuries + POLE_RA @ np.sin(angles))
    dec = np.radians(66.5392 + 0.013 * centuries + POLE_DEC @ np.cos(angles))
    turn = 38.3213 + 13.17635815 * days - 1.4e-12 * days**2 + TURN @ np.sin(angles)
    node = np.array([-np.sin(ra), np.cos(ra), 0.0])
    pole = np.array([np.cos(dec) * np.cos(ra), np.cos(dec) * np.sin(ra), np.sin(dec)])
    along = np.cross(pole, node)
    cosine, sine = np.cos(np.radians(turn)), np.sin(np.radians(turn))
    return np.stack([cosine * node + sine * along, cosine * along - sine * node, pole])


def sun_altitude_deg(
    latitude_deg: Floats,
    longitude_deg: Floats,
    colongitude_deg: float,
    subsolar_latitude_deg: float,
) -> Floats:
    """Return how high the Sun stands over places on the Moon, in degrees; east and north positive.

    Source: sin h = sin β0 sin b + cos β0 cos b sin(c + l); rules.md#moon.
    """
    b, over = np.radians(latitude_deg), np.radians(subsolar_latitude_deg)
    turned = np.radians(colongitude_deg + np.asarray(longitude_deg))
    sine = np.sin(over) * np.sin(b) + np.cos(over) * np.cos(b) * np.sin(turned)
    return np.asarray(np.degrees(np.arcsin(np.clip(sine, -1, 1))))


def make_face(catalogue: Catalogue, track: Track, moment_utc: datetime, most: int = 12) -> MoonFace:
    """Return the Moon's face at a moment of a track, with at most so many features.

    Source: rules.md#moon.
    """
    at = np.array([moment_utc.timestamp()])
    moon, sun = INDEX["moon"], INDEX["sun"]
    places, distances = track.directions(at)[:, :, 0], track.distances_au(at)[:, 0]
    to_date = make_moment(moment_utc).to_date
    to_us = -to_date.T @ places[moon]
    to_sun = to_date.T @ (places[sun] * distances[sun] - places[moon] * distances[moon])
    axes = moon_axes((at[0] + TT_AHEAD_S - J2000_UNIX_S) / 86400)
    longitude, latitude = _on_the_moon_deg(axes @ to_us)
    sun_longitude, sun_latitude = _on_the_moon_deg(axes @ (to_sun / np.linalg.norm(to_sun)))
    light = (90 - sun_longitude) % 360, sun_latitude
    ahead = float((_ecliptic_deg(places[moon]) - _ecliptic_deg(places[sun])) % 360)
    return MoonFace(
        at_utc=moment_utc,
        lit_percent=100 * float(track.fractions_lit(at)[moon, 0]),
        is_waxing=ahead < 180,
        age_days=ahead / 360 * SYNODIC_DAYS,
        elongation_deg=float(separation_deg(places[moon], places[sun])),
        diameter_arcmin=float(diameter_arcsec("moon", distances[moon])) / 60,
        libration_longitude_deg=longitude,
        libration_latitude_deg=latitude,
        colongitude_deg=light[0],
        subsolar_latitude_deg=sun_latitude,
        features=_low_light(catalogue, (longitude, latitude), light, float(distances[moon]))[:most],
    )


def _on_the_moon_deg(vector: Floats) -> tuple[float, float]:
    x, y, z = vector
    return float(np.degrees(np.arctan2(y, x))), float(np.degrees(np.arcsin(np.clip(z, -1, 1))))


def _ecliptic_deg(of_date: Floats) -> float:
    """Return the ecliptic longitude of a unit vector in the equator of date."""
    tilt = np.radians(OBLIQUITY_DEG)
    x, y, z = of_date
    return float(np.degrees(np.arctan2(y * np.cos(tilt) + z * np.sin(tilt), x)))


def feature_light_deg(face: MoonFace, target: Target) -> float | None:
    """Return how high the Sun stands over a feature; None where it is turned away from us.

    Source: rules.md#moon.
    """
    latitude, longitude = target.moon_latitude_deg, target.moon_longitude_deg
    if latitude is None or longitude is None:
        return None
    middle = face.libration_longitude_deg, face.libration_latitude_deg
    if _from_middle_deg(np.array(latitude), np.array(longitude), middle) > LAST_LIMB_DEG:
        return None
    light = face.colongitude_deg, face.subsolar_latitude_deg
    return float(sun_altitude_deg(np.array(latitude), np.array(longitude), *light))


def lights_deg(
    latitude_deg: Floats, longitude_deg: Floats, unix_s: Floats, sky: SunAndMoon
) -> Floats:
    """Return how high the Sun stands over F features at N moments, shape (F, N), in degrees.

    NaN where a feature is turned away from us.

    Source: rules.md#moon.
    """
    high = np.full((np.size(latitude_deg), unix_s.size), np.nan)
    for n, (second, moon, sun) in enumerate(zip(unix_s, sky.moon_au.T, sky.sun_au.T, strict=True)):
        axes = moon_axes((second + TT_AHEAD_S - J2000_UNIX_S) / 86400)
        middle = _on_the_moon_deg(axes @ (-moon / np.linalg.norm(moon)))
        to_sun = sun - moon
        longitude, latitude = _on_the_moon_deg(axes @ (to_sun / np.linalg.norm(to_sun)))
        light = sun_altitude_deg(latitude_deg, longitude_deg, (90 - longitude) % 360, latitude)
        here = _from_middle_deg(latitude_deg, longitude_deg, middle) <= LAST_LIMB_DEG
        high[:, n] = np.where(here, light, np.nan)
    return high


def _from_middle_deg(
    latitude_deg: Floats, longitude_deg: Floats, middle_deg: tuple[float, float]
) -> Floats:
    """Return how far places lie from the middle of the face, in degrees on the Moon."""
    b, middle = np.radians(latitude_deg), np.radians(middle_deg[1])
    turned = np.radians(longitude_deg - middle_deg[0])
    cosine = np.sin(b) * np.sin(middle) + np.cos(b) * np.cos(middle) * np.cos(turned)
    return np.asarray(np.degrees(np.arccos(np.clip(cosine, -1, 1))))


def _low_light(
    catalogue: Catalogue,
    middle_deg: tuple[float, float],
    light_deg: tuple[float, float],
    distance_au: float,
) -> list[LitFeature]:
    """Return the features over which the Sun stands low, the largest first."""
    latitude = catalogue.numbers["moon_latitude_deg"]
    longitude = catalogue.numbers["moon_longitude_deg"]
    high = sun_altitude_deg(latitude, longitude, *light_deg)
    near = _from_middle_deg(latitude, longitude, middle_deg) <= NEAREST_LIMB_DEG
    rows = np.flatnonzero(near & (high >= 0) & (high <= LOW_LIGHT_DEG))
    across = catalogue.numbers["across_km"] / (distance_au * AU_KM)
    rows = rows[np.argsort(-across[rows], kind="stable")]
    return [
        LitFeature(
            key=catalogue.keys[row],
            label=catalogue.labels[row],
            detail=catalogue.features[row],
            sun_altitude_deg=float(high[row]),
            across_arcsec=float(np.degrees(across[row])) * 3600,
        )
        for row in rows.tolist()
    ]
