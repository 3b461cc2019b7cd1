"""Marks in the sky to find north by: Polaris with its offset, and the shadow of a plumb line."""

from datetime import datetime, timedelta

import numpy as np

from jade_perch.core.bench.angles import signed_deg
from jade_perch.core.constants import SUN_HORIZON_DEG
from jade_perch.core.fields import Frozen
from jade_perch.core.moments import clock_time, utc_of
from jade_perch.core.site import Site
from jade_perch.core.sky.catalogue import catalogue, unit_vectors
from jade_perch.core.sky.ephemeris import make_moment, refracted_deg
from jade_perch.core.sky.sunpath import sun_path

POLARIS_SUN_DEG = -4.0  # the Sun as low as this before Polaris shows; our estimate
POLARIS_LOWEST_DEG = 5.0  # lower it drowns in haze
SHADOW_DOUBT_DEG = 1.0  # a plumb line's shadow on the ground; our estimate
SHADOW_ALTITUDES_DEG = (3.0, 75.0)  # below too faint a shadow, above too short a one
SHADOW_READ_MINUTES = 1.0  # a shadow is marked within this of its minute; our estimate
NO_STAR = "South of the equator no bright star marks the pole: shadow, landmark or star drift."
LOW_STAR = "Polaris is too low here: shadow, landmark or star drift."


class Polaris(Frozen):
    """Polaris at one moment: how far from true north (east positive) and how high it seems."""

    azimuth_offset_deg: float
    altitude_deg: float
    words: str


class PlumbShadow(Frozen):
    """The shadow of a plumb line at one moment, and at the moment of local noon.

    ``doubt_deg`` counts how fast it turns; ``noon_azimuth_deg`` is 0 or 180, or None where the
    Sun stands too high at noon to throw a shadow worth aiming by.
    """

    shadow_azimuth_deg: float | None
    doubt_deg: float
    noon_utc: datetime | None
    noon_azimuth_deg: float | None
    words: str
    noon_words: str


def polaris_at(site: Site, moment_utc: datetime) -> Polaris | None:
    """Return where Polaris stands, or None where it is too low to use.

    Source: Hipparcos place, precession and nutation IAU 2000A; refraction after Bennett.
    """
    star = catalogue().get("Polaris")
    moment = make_moment(moment_utc)
    direction = unit_vectors(np.array(star.ra_deg), np.array(star.dec_deg))
    altitude, azimuth = moment.altaz_deg(site, direction)
    if altitude < POLARIS_LOWEST_DEG:
        return None
    offset = signed_deg(float(azimuth))
    side = "east" if offset > 0 else "west"
    _, sun, _ = sun_path(site, moment_utc, timedelta(minutes=1))
    by_day = " It shows only after dusk." if sun[0] > POLARIS_SUN_DEG else ""
    return Polaris(
        azimuth_offset_deg=offset,
        altitude_deg=float(refracted_deg(altitude)),
        words=f"Polaris stands {abs(offset):.2f}° {side} of true north at this minute.{by_day}",
    )


def no_polaris(site: Site) -> str:
    """Return in words why there is no Polaris to use.  Source: rules.md#north."""
    return NO_STAR if site.latitude_deg < 0 else LOW_STAR


def shadow_at(site: Site, moment_utc: datetime) -> PlumbShadow:
    """Return the shadow's azimuth at a moment and the next local noon within a day.

    Source: azimuth of the Sun ± 180°; JPL DE421; rules.md#north.  Nobody looks at the Sun.
    """
    moments, altitude, azimuth = sun_path(site, moment_utc, timedelta(hours=24))
    peaks = np.flatnonzero((altitude[1:-1] >= altitude[:-2]) & (altitude[1:-1] > altitude[2:])) + 1
    low, high = SHADOW_ALTITUDES_DEG
    noon, noon_azimuth, noon_words = None, None, ""
    if peaks.size and altitude[peaks[0]] > SUN_HORIZON_DEG:
        noon = utc_of(moments[peaks[0]])
        is_north_of_us = abs(signed_deg(float(azimuth[peaks[0]]))) < 90
        if altitude[peaks[0]] <= high:
            noon_azimuth = 180.0 if is_north_of_us else 0.0
        noon_words = _noon_words(noon_azimuth, clock_time(noon, site.zone))
    turn_deg = abs(signed_deg(float(azimuth[1] - azimuth[0]))) * 60 / (moments[1] - moments[0])
    doubt = float(np.hypot(SHADOW_DOUBT_DEG, turn_deg * SHADOW_READ_MINUTES))
    shadow = None
    if altitude[0] < low:
        words = "The Sun is too low for a shadow now."
    elif altitude[0] > high:
        words = "The Sun stands too high: the shadow is too short to aim by."
    else:
        shadow = float((azimuth[0] + 180) % 360)
        words = f"A plumb line's shadow points to {shadow:.1f}° now; it moves on every minute."
    return PlumbShadow(
        shadow_azimuth_deg=shadow,
        doubt_deg=doubt,
        noon_utc=noon,
        noon_azimuth_deg=noon_azimuth,
        words=words,
        noon_words=noon_words,
    )


def _noon_words(noon_azimuth_deg: float | None, at: str) -> str:
    """Return where the shadow points at noon: the Sun may stand on either side of the zenith."""
    if noon_azimuth_deg is None:
        return f"At local noon, {at}, the Sun stands too high for a shadow."
    pole = "south" if noon_azimuth_deg else "north"
    return f"At local noon, {at}, it points due {pole}."
