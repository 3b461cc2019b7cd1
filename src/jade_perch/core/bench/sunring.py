"""The Sun's ring: where it goes over the next hours, and which bearings stay safe."""

from datetime import datetime, timedelta

import numpy as np

from jade_perch.core.arrays import Floats, Truths
from jade_perch.core.bench.landmark import POINTED_DOUBT_DEG, UNKNOWN_HEIGHTS_DEG, USUAL_JOB_MINUTES
from jade_perch.core.bench.sunguard import SLACK_DEG, apart_deg
from jade_perch.core.constants import SUN_KEEP_AWAY_DEG
from jade_perch.core.fields import Frozen
from jade_perch.core.moments import Now, utc_of
from jade_perch.core.safety import CAUTION, down_words, judged_words
from jade_perch.core.site import Site
from jade_perch.core.sky.sunpath import Watched, counts_from, counts_until, watch_sun

AHEAD = timedelta(hours=6)  # how far the ring looks ahead, as long as one may work by day
MARK_EVERY = 30  # minutes between two marks of the track
RING_STEP_DEG = 2.0


class SunMark(Frozen):
    """The Sun at one moment of its track."""

    at_utc: datetime
    azimuth_deg: float
    altitude_deg: float


class Arc(Frozen):
    """A stretch of bearings, clockwise from ``from_deg`` to ``to_deg``; 0 to 360 is all round."""

    from_deg: float
    to_deg: float


class Side(Frozen):
    """A direction as told by the Sun itself: the true bearing, and whether it is refused."""

    words: str
    bearing_deg: float
    refused: bool


class SunRing(Frozen):
    """The Sun's track from now on and the bearings that stay safe for level aiming.

    It counts as up until ``counts_until_utc``, ten minutes after it has set, and again from
    ``counts_from_utc``, ten minutes before it rises.
    ``sides`` are the directions told by the Sun, none while it is down.
    ``holds_until_utc`` is the end of what was looked at: six hours, or that if it is sooner.
    """

    is_up: bool
    sun: SunMark
    track: list[SunMark]
    unsafe: list[Arc]
    safe: list[Arc]
    sides: list[Side]
    holds_until_utc: datetime
    counts_until_utc: datetime | None
    counts_from_utc: datetime | None
    words: str
    caution: str


SIDES = {"toward the Sun": 0.0, "left of it": -90.0, "right of it": 90.0, "behind you": 180.0}


def sun_ring(site: Site, now: Now, heights_deg: tuple[float, ...] = UNKNOWN_HEIGHTS_DEG) -> SunRing:
    """Return the Sun's track over the next six hours and which bearings stay safe all the while.

    Bearings are for aiming at any of ``heights_deg`` over the horizon.

    Source: rules.md#sun.
    """
    watched = watch_sun(site, now.moment_utc, AHEAD)
    is_up = watched.counts_as_up
    bearings = np.arange(0.0, 360.0, RING_STEP_DEG)
    apart = apart_deg(bearings[:, np.newaxis], heights_deg, watched)
    bad = np.asarray(np.any(is_up & (apart < SUN_KEEP_AWAY_DEG + SLACK_DEG), axis=1))
    counts = counts_until(site, now.moment_utc) if is_up[0] else None
    marks = [
        SunMark(
            at_utc=utc_of(watched.moments_s[n]),
            azimuth_deg=float(watched.azimuth_deg[n]),
            altitude_deg=float(watched.seen_deg[n]),
        )
        for n in np.flatnonzero(is_up)[::MARK_EVERY]
    ]
    end = now.moment_utc + AHEAD
    unsafe, safe = _arcs(bad)
    return SunRing(
        is_up=bool(is_up[0]),
        sun=SunMark(
            at_utc=now.moment_utc,
            azimuth_deg=float(watched.azimuth_deg[0]),
            altitude_deg=float(watched.seen_deg[0]),
        ),
        track=marks,
        unsafe=unsafe,
        safe=safe,
        sides=_sides(watched, apart) if is_up[0] else [],
        holds_until_utc=min(end, counts) if counts is not None else end,
        counts_until_utc=counts,
        counts_from_utc=None if is_up[0] else counts_from(site, now.moment_utc),
        words=_ring_words(bool(is_up[0]), counts, bad, site, now),
        caution=CAUTION,
    )


def _sides(watched: Watched, apart: Floats) -> list[Side]:
    """Return the directions told by the Sun, refused as a job begun now would be."""
    job = slice(int(USUAL_JOB_MINUTES) + 1)
    least_deg = SUN_KEEP_AWAY_DEG + SLACK_DEG + POINTED_DOUBT_DEG
    near = np.any(watched.counts_as_up[job] & (apart[:, job] < least_deg), axis=1)
    found = []
    for words, away_deg in SIDES.items():
        bearing = float(watched.azimuth_deg[0] + away_deg) % 360
        refused = bool(near[round(bearing / RING_STEP_DEG) % len(near)])
        found.append(Side(words=words, bearing_deg=bearing, refused=refused))
    return found


def _ring_words(is_up: bool, counts: datetime | None, bad: Truths, site: Site, now: Now) -> str:
    if not is_up:
        return down_words(site, now)
    outside = judged_words(site, now)
    if bad.all():
        return f"No bearing is safe: wait until the Sun is down.{outside}"
    if not bad.any():
        high = "The Sun stands high: every level bearing is safe; never tilt up toward it."
        return high + outside
    until = "" if counts is not None else " The Sun does not set within a day."
    return f"Aim only at bearings outside the hatched part.{until}{outside}"


def _arcs(bad: Truths) -> tuple[list[Arc], list[Arc]]:
    """Return unsafe and safe stretches of bearings; what lies between two of them is unsafe."""
    whole = [Arc(from_deg=0.0, to_deg=360.0)]
    if bad.all() or not bad.any():
        return (whole, []) if bad.all() else ([], whole)
    unsafe, safe = [], []
    for start in np.flatnonzero(bad & ~np.roll(bad, 1)).tolist():
        length = int(np.argmin(np.roll(bad, -start)))
        unsafe.append(_arc(start - 1, start + length))
    for start in np.flatnonzero(~bad & np.roll(bad, 1)).tolist():
        length = int(np.argmax(np.roll(bad, -start)))
        if length > 1:  # a single bearing is no stretch to aim into
            safe.append(_arc(start, start + length - 1))
    return unsafe, safe


def _arc(first: int, last: int) -> Arc:
    low, high = first * RING_STEP_DEG % 360, last * RING_STEP_DEG % 360
    return Arc(from_deg=float(low), to_deg=float(high))
