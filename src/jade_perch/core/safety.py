"""Where the Sun is and what is refused because of it; deliberately blunt."""

from datetime import datetime, timedelta

from jade_perch.core.constants import SUN_KEEP_AWAY_DEG
from jade_perch.core.fields import Frozen
from jade_perch.core.moments import Now
from jade_perch.core.site import Site
from jade_perch.core.sky.sunpath import counts_until, watch_sun

CAUTION = (
    "Never point an unfiltered telescope or finder at or near it: a finder is a telescope too. "
    f"Keep {SUN_KEEP_AWAY_DEG:g}° away."
)


class SunWatch(Frozen):
    """The Sun at one moment: whether it counts as up, where, until when (None: a day and more)."""

    is_up: bool
    altitude_deg: float
    azimuth_deg: float
    up_until_utc: datetime | None
    words: str


def sun_at(site: Site, now: Now) -> SunWatch:
    """Return the Sun's place at a site right now, whatever evening is being planned.

    It counts as up from ten minutes before rising to ten after setting.

    Source: rules.md#sun.
    """
    watched = watch_sun(site, now.moment_utc, timedelta(minutes=1))
    is_up = bool(watched.counts_as_up[0])
    return SunWatch(
        is_up=is_up,
        altitude_deg=float(watched.seen_deg[0]),
        azimuth_deg=float(watched.azimuth_deg[0]),
        up_until_utc=counts_until(site, now.moment_utc) if is_up else None,
        words=CAUTION if is_up else down_words(site, now),
    )


def down_words(site: Site, now: Now) -> str:
    """Return that the Sun is down, by which clock.  Source: rules.md#sun."""
    return f"The Sun is down{now.by_clock(site.zone)}.{not_outside(now)}"


def judged_words(site: Site, now: Now) -> str:
    """Return by which clock a judgement holds; nothing for a real one.  Source: rules.md#sun."""
    return "" if now.clock == "real" else f" Judged{now.by_clock(site.zone)}.{not_outside(now)}"


def not_outside(now: Now) -> str:
    """Return that a clock other than the real one knows no Sun outside.  Source: rules.md#sun."""
    return "" if now.clock == "real" else " Says nothing of the Sun outside."


def refused_for_sun(sun_is_up: bool, distance_deg: float) -> bool:
    """Return whether aiming that near the Sun, in degrees, is refused; an unknown distance is.

    Source: rules.md#sun: ``SUN_KEEP_AWAY_DEG`` unless the Sun is down.
    """
    return sun_is_up and not distance_deg >= SUN_KEEP_AWAY_DEG
