"""How bright the sky is at a place in it: the site's own glow, its domes, Moon and twilight."""

import numpy as np
from numpy.typing import ArrayLike

from jade_perch.core.arrays import Floats
from jade_perch.core.site import LightDome, Site
from jade_perch.core.sky.air import EXTINCTION_MAG
from jade_perch.core.sky.brightness import ZERO_MPSAS_CD_M2, luminance_cd_m2, site_mpsas

NANOLAMBERT_CD_M2 = 1e-9 * 1e4 / np.pi  # definition of the lambert
DOME_FALL_DEG = 15.0  # a dome is e times fainter so much higher; our estimate
DOME_AT_DEG = 20.0  # how much brighter a dome is, is said of this altitude
NEAREST_MOON_DEG = 0.25  # nearer is the Moon itself
NEAREST_COSINE = float(np.cos(np.radians(NEAREST_MOON_DEG)))
LN_10 = float(np.log(10))  # exp(LN_10·x) is a third of the work of 10**x
# Zenith brightness in V by the Sun's altitude, mag/arcsec²: Patat et al. 2006, A&A 455:385, from
# -5° down to -15°; above from daylight measurements, roughly.  Below -18° nothing is added.
TWILIGHT_SUN_DEG = (-18.0, -15.0, -13.0, -11.0, -9.0, -7.0, -5.0, 0.0, 10.0)
TWILIGHT_MPSAS = (23.5, 22.6, 21.35, 18.83, 16.83, 14.5, 11.84, 7.1, 4.5)
TOWARD_SUN_MAG = (
    1.0  # so much brighter toward the Sun at the horizon, fainter opposite; our estimate
)


def site_glow_cd_m2(site: Site | None, altitude_deg: ArrayLike, azimuth_deg: ArrayLike) -> Floats:
    """Return the luminance of a place's moonless night sky at altitudes and azimuths, in cd/m².

    Source: rules.md#skylight: the zenith's value, brighter with the air looked through as in
    Krisciunas and Schaefer 1991, times the domes of light.
    """
    altitude = np.clip(np.asarray(altitude_deg, dtype=float), 0.0, 90.0)
    through = _scattering_mass(altitude)
    dark = luminance_cd_m2(site_mpsas(site)[0]) * through
    dark = dark * np.exp(-0.4 * LN_10 * EXTINCTION_MAG * (through - 1))
    domes = () if site is None else site.light_domes
    return np.asarray(dark * dome_factor(domes, altitude, azimuth_deg))


def dome_factor(
    domes: tuple[LightDome, ...], altitude_deg: ArrayLike, azimuth_deg: ArrayLike
) -> Floats:
    """Return how many times brighter domes of light make the sky, 1 and more.

    Each is a bell in azimuth, as wide at half its height as was said, and fades upward.

    Source: rules.md#skylight; our estimate.
    """
    altitude, azimuth = np.broadcast_arrays(altitude_deg, azimuth_deg)
    total = np.ones(altitude.shape)
    for dome in domes:
        aside = (azimuth - dome.azimuth_deg + 180) % 360 - 180
        bell = np.exp(-4 * np.log(2) * (aside / dome.width_deg) ** 2)
        fade = np.exp(-(np.maximum(altitude, 0.0) - DOME_AT_DEG) / DOME_FALL_DEG)
        total = total + (10 ** (0.4 * dome.brighter_mag) - 1) * bell * fade
    return total


def moonlight_cd_m2(
    altitude_deg: ArrayLike, away_deg: ArrayLike, moon_altitude_deg: ArrayLike, phase_deg: ArrayLike
) -> Floats:
    """Return the luminance the Moon adds, in cd/m²; nothing while it is down.

    ``away_deg`` is the angle from the Moon, ``phase_deg`` its phase angle (0 full, 180 new).

    Source: Krisciunas and Schaefer 1991, PASP 103:1033, equations 3, 15, 20 and 21.
    """
    strength = moon_strength(moon_altitude_deg, phase_deg)
    return scattered_cd_m2(altitude_deg, away_deg, np.cos(np.radians(away_deg)), strength)


def moon_strength(moon_altitude_deg: ArrayLike, phase_deg: ArrayLike) -> Floats:
    """Return what reaches the air of the Moon's light, by its height and phase; 0 while it is down.

    Source: Krisciunas and Schaefer 1991, PASP 103:1033, equations 3 and 20.
    """
    phase, height = np.abs(phase_deg), np.asarray(moon_altitude_deg, dtype=float)
    lit = 10 ** (-0.4 * (3.84 + 0.026 * phase + 4e-9 * np.asarray(phase, dtype=float) ** 4))
    loss = 10 ** (-0.4 * EXTINCTION_MAG * _scattering_mass(height))
    return np.asarray(np.where(height > 0, lit * loss, 0.0))


def scattered_cd_m2(
    altitude_deg: ArrayLike, away_deg: ArrayLike, cosines: ArrayLike, fraction: Floats
) -> Floats:
    """Return what the air scatters of the Moon's light, in cd/m².

    ``cosines`` are those of ``away_deg``, which a night has at hand; ``fraction`` is the Moon's
    strength.

    Source: Krisciunas and Schaefer 1991, PASP 103:1033, equations 3, 15 and 21.
    """
    away = np.maximum(np.asarray(away_deg, dtype=float), NEAREST_MOON_DEG)
    cosine = np.minimum(cosines, NEAREST_COSINE)
    scattered = 10**5.36 * (1.06 + cosine**2) + np.exp(LN_10 * (6.15 - away / 40))
    scattered = np.where(away < 10, np.maximum(scattered, 6.2e7 / away**2), scattered)
    gain = 1 - np.exp(-0.4 * LN_10 * EXTINCTION_MAG * _scattering_mass(altitude_deg))
    return np.asarray(scattered * fraction * gain * NANOLAMBERT_CD_M2)


def _scattering_mass(altitude_deg: ArrayLike) -> Floats:
    """Return the airmass for scattered light of the same paper, equation 3."""
    altitude = np.clip(np.asarray(altitude_deg, dtype=float), 0.0, 90.0)
    return np.asarray(1 / np.sqrt(1 - 0.96 * np.cos(np.radians(altitude)) ** 2))


def twilight_cd_m2(
    altitude_deg: ArrayLike, from_sun_azimuth_deg: ArrayLike, sun_altitude_deg: ArrayLike
) -> Floats:
    """Return the luminance that twilight or day adds, in cd/m²; nothing with the Sun under -18°.

    ``from_sun_azimuth_deg`` is the difference in azimuth from the Sun.

    Source: Patat et al. 2006, A&A 455:385 for the zenith; toward the Sun our estimate.
    """
    sun = np.asarray(sun_altitude_deg, dtype=float)
    zenith = np.interp(sun, TWILIGHT_SUN_DEG, TWILIGHT_MPSAS)
    low = 1 - np.clip(np.asarray(altitude_deg, dtype=float), 0.0, 90.0) / 90
    toward = TOWARD_SUN_MAG * np.cos(np.radians(from_sun_azimuth_deg)) * low
    added = ZERO_MPSAS_CD_M2 * np.exp(-0.4 * LN_10 * (zenith - toward))
    return np.asarray(np.where(sun > TWILIGHT_SUN_DEG[0], added, 0.0))


def separation_altaz_deg(
    altitude_deg: ArrayLike,
    azimuth_deg: ArrayLike,
    other_altitude_deg: ArrayLike,
    other_azimuth_deg: ArrayLike,
) -> Floats:
    """Return the angle between places given by altitude and azimuth, in degrees.

    Source: spherical law of cosines.
    """
    one, other = np.radians(altitude_deg), np.radians(other_altitude_deg)
    turned = np.radians(np.asarray(azimuth_deg) - np.asarray(other_azimuth_deg))
    cosine = np.sin(one) * np.sin(other) + np.cos(one) * np.cos(other) * np.cos(turned)
    return np.asarray(np.degrees(np.arccos(np.clip(cosine, -1, 1))))
