"""What comes next by the clock: Moonset, transit, a target going down, dew, cold, a break."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal

import numpy as np

from jade_perch.core.arrays import Floats
from jade_perch.core.bench.budget import budget_minutes
from jade_perch.core.bench.cooling import DEW_WARN_C, Forecast, dew_point_c
from jade_perch.core.evening.interest import LOWEST_DEG
from jade_perch.core.evening.outlook import COLD_C
from jade_perch.core.evening.plan import BREAK, BREAK_EVERY
from jade_perch.core.eyepiece.keeping import Zenith
from jade_perch.core.eyepiece.sitting import Sitting
from jade_perch.core.fields import Frozen
from jade_perch.core.sky.night import Night, Span
from jade_perch.core.sky.targets import Placed
from jade_perch.core.skyline import Skyline, is_behind
from jade_perch.core.units import Units

EventKind = Literal[
    "moon", "dark", "transit", "low", "skyline", "zenith", "dew", "cold", "break", "dawn"
]
MINUTE = timedelta(minutes=1)
FELT_COLD = timedelta(hours=1)  # so long one stands in the cold before it tells; our estimate


class Event(Frozen):
    """One fixed event: when, in words of at most 40 characters; ``is_due`` when it is now."""

    kind: EventKind
    at_utc: datetime
    words: str
    is_due: bool = False
    is_simulated: bool = False


@dataclass(frozen=True, slots=True)
class Ahead:
    """Where a target goes from now on: horizon vectors (T, 3) at ``budget_minutes``."""

    place: Placed
    along: Floats
    zenith: Zenith | None

    @property
    def heights_deg(self) -> Floats:
        """Altitudes in degrees, (T,).  Source: rules.md#tracking."""
        return np.asarray(np.degrees(np.arcsin(np.clip(self.along[:, 2], -1, 1))))

    @property
    def azimuths_deg(self) -> Floats:
        """Azimuths in degrees from north, (T,).  Source: rules.md#tracking."""
        return np.asarray(np.degrees(np.arctan2(self.along[:, 0], self.along[:, 1])) % 360)


def events_ahead(
    night: Night,
    sitting: Sitting,
    air: Forecast | None,
    now_utc: datetime,
    units: Units,
    ahead: Ahead | None,
    skyline: Skyline,
) -> list[Event]:
    """Return what comes next, soonest first: what is due now before everything else.

    Source: rules.md#coming.
    """
    found = [*_lights(night, now_utc), *_moon(night, now_utc), *_break(sitting, now_utc)]
    if air is not None:
        found += _air(air, sitting, now_utc, units)
    if ahead is not None:
        found += _target(ahead, skyline, now_utc)
    return sorted(found, key=lambda one: (not one.is_due, one.at_utc))


def _lights(night: Night, now_utc: datetime) -> list[Event]:
    return _ends(night.dark, now_utc, ("dark", "full dark"), ("dawn", "first light of dawn"))


def _moon(night: Night, now_utc: datetime) -> list[Event]:
    up: Sequence[Span] = next((one.up for one in night.bodies if one.body == "moon"), [])
    return _ends(up, now_utc, ("moon", "the Moon rises"), ("moon", "the Moon sets"))


def _ends(
    spans: Sequence[Span],
    now_utc: datetime,
    start: tuple[EventKind, str],
    end: tuple[EventKind, str],
) -> list[Event]:
    """Return where spans begin and end from now on; the edge of the night is no event."""
    ends = [
        (at_utc, told)
        for span in spans
        for is_event, at_utc, told in (
            (span.starts, span.start_utc, start),
            (span.ends, span.end_utc, end),
        )
        if is_event and at_utc > now_utc
    ]
    return [Event(kind=kind, at_utc=at_utc, words=words) for at_utc, (kind, words) in ends]


def _break(sitting: Sitting, now_utc: datetime) -> list[Event]:
    """Return when a break to warm up is due: so long after the last one, or after the start."""
    since = sitting.break_utc or sitting.begun_utc
    if since is None or sitting.closed_at_utc is not None:
        return []
    due = min(since, now_utc) + BREAK_EVERY
    is_due = due <= now_utc
    words = "warm up: a break is due" if is_due else f"warm up: {BREAK / MINUTE:.0f} min break"
    return [Event(kind="break", at_utc=max(due, now_utc), words=words, is_due=is_due)]


def _air(air: Forecast, sitting: Sitting, now_utc: datetime, units: Units) -> list[Event]:
    margin = air.air_c - float(dew_point_c(air.air_c, air.humidity_percent))
    is_simulated = air.source == "simulated"
    events = []
    if margin <= DEW_WARN_C:
        words = f"dew near: air {units.difference(margin)} over it"
        due = not is_simulated
        events.append(
            Event(kind="dew", at_utc=now_utc, words=words, is_due=due, is_simulated=is_simulated)
        )
    if air.air_c <= COLD_C and sitting.begun_utc is not None:
        since = sitting.break_utc or sitting.begun_utc
        at = max(now_utc, min(since, now_utc) + FELT_COLD)
        words = f"cold, {units.degrees(air.air_c)}: move, cap on, drink"
        events.append(Event(kind="cold", at_utc=at, words=words, is_simulated=is_simulated))
    return events


def _target(ahead: Ahead, skyline: Skyline, now_utc: datetime) -> list[Event]:
    label = ahead.place.target.label
    heights, azimuths = ahead.heights_deg, ahead.azimuths_deg
    minutes = budget_minutes()

    def _at(index: int) -> datetime:
        return now_utc + float(minutes[index]) * MINUTE

    events = []
    top = int(np.argmax(heights))
    if 0 < top < heights.size - 1:
        words = f"{label} stands highest, {heights[top]:.0f}°"
        events.append(Event(kind="transit", at_utc=_at(top), words=words))
    low = heights < LOWEST_DEG
    if low.any() and not low[0]:
        words = f"{label} sinks under {LOWEST_DEG:.0f}°"
        events.append(Event(kind="low", at_utc=_at(int(np.argmax(low))), words=words))
    behind = is_behind(skyline, heights, azimuths)
    if behind.any() and not behind[0]:
        words = f"{label} goes behind your skyline"
        events.append(Event(kind="skyline", at_utc=_at(int(np.argmax(behind))), words=words))
    zenith = ahead.zenith
    if zenith is not None and zenith.enters_utc is not None:
        words = f"{label} too near overhead to follow"
        is_due = zenith.enters_utc <= now_utc
        events.append(Event(kind="zenith", at_utc=zenith.enters_utc, words=words, is_due=is_due))
    return events
