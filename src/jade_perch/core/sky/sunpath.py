"""Where the Sun goes over the hours of a job, and when it counts as up."""

import math
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from functools import lru_cache

import numpy as np

from jade_perch.core.arrays import Floats, Truths
from jade_perch.core.constants import DIP_ARCMIN_PER_ROOT_M, SUN_HORIZON_DEG, SUN_MARGIN_MINUTES
from jade_perch.core.moments import utc_of
from jade_perch.core.site import Site
from jade_perch.core.sky.ephemeris import INDEX, Track, make_track, refracted_deg

STEP_S = 60.0  # the Sun moves a quarter of a degree in it
TRACK_SPAN = timedelta(hours=33)  # a day, the longest job and the margins
A_DAY = timedelta(hours=24)
WATCHES_KEPT = 32
SUN_MARGIN = timedelta(minutes=SUN_MARGIN_MINUTES)


@dataclass(frozen=True, slots=True)
class Watched:
    """The Sun every minute: Unix seconds, airless and refracted altitude, azimuth, all in degrees.

    ``counts_as_up`` holds the margin on both sides of rising and setting.
    """

    moments_s: Floats
    altitude_deg: Floats
    seen_deg: Floats
    azimuth_deg: Floats
    counts_as_up: Truths


def horizon_deg(site: Site) -> float:
    """Return how low the middle of the Sun still shows its rim from a place's height, in degrees.

    The whole height over the sea is counted as height over the horizon: the safe side.

    Source: rules.md#sun; dip of the horizon with usual refraction.
    """
    dip_arcmin = DIP_ARCMIN_PER_ROOT_M * math.sqrt(max(0.0, site.elevation_m))
    return SUN_HORIZON_DEG - dip_arcmin / 60


@lru_cache(maxsize=16)
def _track_from(site: Site, hour_s: float) -> Track:
    start = datetime.fromtimestamp(hour_s, UTC)
    return make_track(site, start, start + TRACK_SPAN)


def sun_track(site: Site, from_utc: datetime) -> Track:
    """Return the tracks from the full hour before a moment on; kept for the next asker.

    Raises ``OutOfRange`` for moments outside the ephemeris.

    Source: rules.md#sun.
    """
    hour_s = from_utc.timestamp() // 3600 * 3600
    return _track_from(site, hour_s)


def sun_path(site: Site, from_utc: datetime, span: timedelta) -> tuple[Floats, Floats, Floats]:
    """Return moments (Unix s), altitudes and azimuths in degrees of the Sun, every minute.

    Source: rules.md#sun.
    """
    moments = np.asarray(from_utc.timestamp() + STEP_S * np.arange(_steps(span) + 1), dtype=float)
    altitude, azimuth = sun_track(site, from_utc).altaz_deg(moments, INDEX["sun"])
    return moments, altitude, azimuth


def _steps(span: timedelta) -> int:
    return max(1, int(np.ceil(span.total_seconds() / STEP_S)))


@lru_cache(maxsize=WATCHES_KEPT)
def watch_sun(
    site: Site, from_utc: datetime, span: timedelta, margin: timedelta = SUN_MARGIN
) -> Watched:
    """Return the Sun over a span, counting as up from a margin before it rises to one after.

    The horizon is the one seen from the place's height, refraction counted.  One moment is asked
    about by several, and what they get is one answer: nobody can write into it.

    Source: rules.md#sun.
    """
    around = _steps(margin)
    before = timedelta(seconds=STEP_S * around)
    moments, altitude, azimuth = sun_path(site, from_utc - before, span + 2 * before)
    is_up = (altitude > horizon_deg(site)).astype(int)
    near = np.convolve(is_up, np.ones(2 * around + 1, dtype=int), "valid") > 0
    inside = slice(around, around + near.size)
    altitude = altitude[inside]
    columns = (moments[inside], altitude, np.asarray(refracted_deg(altitude)), azimuth[inside])
    for column in (*columns, near):
        column.setflags(write=False)
    return Watched(*columns, near)


def counts_until(site: Site, from_utc: datetime) -> datetime | None:
    """Return when the Sun, counting as up now, stops doing so within a day, at a whole minute.

    None where it does not count as up, or never stops.

    Source: rules.md#sun.
    """
    watched = watch_sun(site, from_utc, A_DAY)
    if not watched.counts_as_up[0] or watched.counts_as_up.all():
        return None
    return utc_of(np.ceil(watched.moments_s[int(np.argmin(watched.counts_as_up))] / 60) * 60)


def counts_from(site: Site, from_utc: datetime) -> datetime | None:
    """Return when the Sun, not counting as up now, does so next within a day, at a whole minute.

    Source: rules.md#sun.
    """
    watched = watch_sun(site, from_utc, A_DAY)
    if watched.counts_as_up[0] or not watched.counts_as_up.any():
        return None
    return utc_of(watched.moments_s[int(np.argmax(watched.counts_as_up))] // 60 * 60)
