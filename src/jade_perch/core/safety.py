"""Where the Sun is and what is refused because of it; deliberately blunt."""

from datetime import datetime

import numpy as np

from jade_perch.core.constants import SUN_HORIZON_DEG, SUN_KEEP_AWAY_DEG
from jade_perch.core.fields import Frozen
from jade_perch.core.site import Site
from jade_perch.core.sky.ephemeris import INDEX, Track, refracted_deg
from jade_perch.core.sky.night import Night, evening_date, make_night, night_track

CAUTION = (
    "Never point an unfiltered telescope or finder at or near it: a finder is a telescope too. "
    f"Keep {SUN_KEEP_AWAY_DEG:g}° away."
)


class SunWatch(Frozen):
    """The Sun at one moment: whether it is up, where, and until when (None: all this night)."""

    is_up: bool
    altitude_deg: float
    azimuth_deg: float
    up_until_utc: datetime | None
    words: str


def sun_watch(track: Track, now_s: float, up_until_utc: datetime | None) -> SunWatch:
    """Return the Sun's place at Unix seconds ``now_s`` and the caution that goes with it.

    Source: rules.md#sun.
    """
    altitude, azimuth = track.altaz_deg(np.array([now_s]), INDEX["sun"])
    is_up = bool(altitude[0] > SUN_HORIZON_DEG)
    return SunWatch(
        is_up=is_up,
        altitude_deg=float(refracted_deg(altitude)[0]),
        azimuth_deg=float(azimuth[0]),
        up_until_utc=up_until_utc if is_up else None,
        words=CAUTION if is_up else "The Sun is down.",
    )


def sun_at(site: Site, now_utc: datetime) -> SunWatch:
    """Return the Sun's place at a site right now, whatever evening is being planned.

    Source: rules.md#sun.
    """
    night = make_night(site, evening_date(site, now_utc))
    return sun_watch(night_track(site, night.date), now_utc.timestamp(), sun_until(night, now_utc))


def sun_until(night: Night, at_utc: datetime) -> datetime | None:
    """Return when the Sun sets if it is up at ``at_utc``; None if it is down or stays up.

    Source: rules.md#sun.
    """
    up = night.bodies[INDEX["sun"]].up
    return next((s.end_utc for s in up if s.start_utc <= at_utc <= s.end_utc and s.ends), None)


def refused_for_sun(sun_is_up: bool, distance_deg: float) -> bool:
    """Return whether aiming that near the Sun, in degrees, is refused; an unknown distance is.

    Source: rules.md#sun: ``SUN_KEEP_AWAY_DEG`` unless the Sun is down.
    """
    return sun_is_up and not distance_deg >= SUN_KEEP_AWAY_DEG
