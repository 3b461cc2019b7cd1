"""Keeping a target in the field: how long it stays on a rung, which knob, and which way."""

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.budget import (
    NUDGE_SHARE,
    Reading,
    ReadingName,
    budget_minutes,
    minutes_table,
    standing_of,
    worst_standings,
    zenith_from_deg,
)
from jade_perch.core.bench.tracking import hand_rates_arcmin_per_min
from jade_perch.core.fields import Frozen
from jade_perch.core.kit import Mount
from jade_perch.core.moments import clock_time
from jade_perch.core.optics.rungs import Rung
from jade_perch.core.optics.viewer import Course
from jade_perch.core.site import Site
from jade_perch.core.sky.targets import Placed

MOSTLY = 3.0  # one way counts alone where it is so many times the other; our choice
HOLE_AHEAD_MIN = 60.0  # the zenith hole is told so long before; our choice
SIDE_WORDS = (
    "the right", "the upper right", "the top", "the upper left",
    "the left", "the lower left", "the bottom", "the lower right",
)  # fmt: skip


class Keeping(Frozen):
    """How a target stays on one rung: from the middle to the edge, and when a push is due.

    Seconds; None is longer than three hours.  ``worst_s`` counts the doubts of the set-up, and is
    the same for a hand-pushed mount.  ``is_about`` where the field is not measured or something of
    the set-up was never read.
    """

    rung_key: str
    edge_s: float | None
    worst_s: float | None
    push_s: float | None
    is_about: bool


class Push(Frozen):
    """Which way a target leaves and what brings it back.

    ``seen`` is the side it leaves to as the eye sees it in this glass, ``hand`` what the hand
    does.
    """

    seen: str
    hand: str


class Zenith(Frozen):
    """The zone round the zenith where this mount cannot follow, and when the target is in it."""

    from_deg: float
    enters_utc: datetime | None
    leaves_utc: datetime | None
    words: str


def keep_on(
    sky: Floats,
    rungs: Sequence[Rung],
    mount: Mount,
    site: Site,
    readings: Mapping[ReadingName, Reading],
    course: Course,
) -> list[Keeping]:
    """Return how long a target stays on each rung, followed as this mount follows.

    ``sky`` (T, 3) is where it goes from now on, as horizon vectors at ``budget_minutes``.  A
    mount pushed by hand stays where it is left, so there the drift alone counts.

    Source: rules.md#keeping; rules.md#tracking.
    """
    drive = mount.traits.drive
    radii_arcmin = np.array([rung.true_field_deg * 30 for rung in rungs])
    if drive == "hand":
        rate = course.rate_arcsec_per_s * float(np.cos(np.radians(course.declination_deg))) / 60
        nominal = radii_arcmin / rate if rate > 0 else np.full(radii_arcmin.size, np.inf)
        worst, unread = nominal, False
    else:
        at = (sky[np.newaxis], site.latitude_deg, radii_arcmin)
        nominal = 60 * minutes_table(drive, [standing_of(readings)], *at)[0]
        corners = minutes_table(drive, worst_standings(readings, drive), *at)[0]
        worst = np.minimum(nominal, 60 * corners)
        unread = any(not one.is_recorded for one in readings.values())
    most_s = 60 * float(budget_minutes()[-1])
    return [
        Keeping(
            rung_key=rung.key,
            edge_s=_within(float(edge), most_s),
            worst_s=_within(float(least), most_s),
            push_s=_within(NUDGE_SHARE * float(least), most_s),
            is_about=rung.field_is_about or unread,
        )
        for rung, edge, least in zip(rungs, nominal, worst, strict=True)
    ]


def _within(seconds: float, most_s: float) -> float | None:
    return round(seconds, 1) if seconds <= most_s else None


def side_words(angle_deg: float) -> str:
    """Return a direction in the field as people say it; degrees counter-clockwise from right.

    Source: rules.md#words.
    """
    return SIDE_WORDS[round(angle_deg / 45) % len(SIDE_WORDS)]


def push_of(place: Placed, mount: Mount, latitude_deg: float, drift_deg: float) -> Push:
    """Return what brings a target back to the middle.

    ``drift_deg`` is the way it leaves in the eyepiece as turned and mirrored as it is,
    counter-clockwise from right.

    Source: rules.md#keeping; the tube goes where the sky goes, west.
    """
    up, round_ = hand_rates_arcmin_per_min(place.altitude_deg, place.azimuth_deg, latitude_deg)
    across = float(round_) * float(np.cos(np.radians(place.altitude_deg)))
    return Push(
        seen=f"It leaves to {side_words(drift_deg)}.",
        hand=_hand_words(mount, float(up), across),
    )


def _hand_words(mount: Mount, up_arcmin_per_min: float, across_arcmin_per_min: float) -> str:
    traits = mount.traits
    if traits.drive == "equatorial":
        return "The knob of the polar axis alone brings it back."
    if traits.drive == "altaz":
        return "The motors follow; what is left, bring back with slow keys."
    up, across = abs(up_arcmin_per_min), abs(across_arcmin_per_min)
    level = "to the right" if across_arcmin_per_min > 0 else "to the left"
    rise = "up" if up_arcmin_per_min > 0 else "down"
    ways = [level, rise] if across >= up else [rise, level]
    one_way = max(up, across) >= MOSTLY * min(up, across)
    if mount.kind == "altaz_slow_motion":
        knobs = {level: "round knob", rise: "height knob"}
        first = f"Turn the {knobs[ways[0]]}: front of the tube {ways[0]}"
    else:
        first = f"Push the front of the tube gently {ways[0]}"
    return f"{first}." if one_way else f"{first}, and a little {ways[1]}."


def zenith_of(sky: Floats, mount: Mount, site: Site, now_utc: datetime) -> Zenith | None:
    """Return the zone overhead where this mount cannot follow; None where it always can.

    ``sky`` (T, 3) is where the target goes from now on, as horizon vectors at
    ``budget_minutes``.

    Source: rules.md#tracking.
    """
    from_deg = zenith_from_deg(mount.traits.drive, site.latitude_deg)
    if from_deg is None:
        return None
    height = np.degrees(np.arcsin(np.clip(sky[:, 2], -1, 1)))
    inside = height > from_deg
    minutes = budget_minutes()
    if not inside.any():
        return Zenith(from_deg=from_deg, enters_utc=None, leaves_utc=None, words="")
    first = int(np.argmax(inside))
    after = np.flatnonzero(~inside[first:])
    enters = now_utc + timedelta(minutes=float(minutes[first]))
    leaves = None
    if after.size:
        leaves = now_utc + timedelta(minutes=float(minutes[first + int(after[0])]))
    return Zenith(
        from_deg=from_deg,
        enters_utc=enters,
        leaves_utc=leaves,
        words=_zenith_words(from_deg, float(minutes[first]), leaves, site.zone),
    )


def _zenith_words(from_deg: float, wait_min: float, leaves_utc: datetime | None, zone: str) -> str:
    until = "" if leaves_utc is None else f" until {clock_time(leaves_utc, zone)}"
    hole = f"over {from_deg:.0f}° this mount cannot follow"
    if wait_min <= 0:
        return f"Too near overhead: {hole}{until}. Look at something else meanwhile."
    if wait_min > HOLE_AHEAD_MIN:
        return ""
    return f"In {wait_min:.0f} min it stands too near overhead: {hole}{until}. Look now."
