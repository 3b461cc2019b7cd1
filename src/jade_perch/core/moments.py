"""Moments: Unix seconds, in which the sky is computed, and the UTC that people are told."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from typing import Literal
from zoneinfo import ZoneInfo

ClockKind = Literal["real", "held", "rehearsal"]


@dataclass(frozen=True, slots=True)
class Now:
    """The present moment and the clock that tells it; only a real one knows the Sun outside."""

    moment_utc: datetime
    clock: ClockKind = "real"

    def by_clock(self, zone: str) -> str:
        """Return " at the held 17:10" for a clock that is not real, else nothing.

        Source: rules.md#sun.
        """
        name = {"real": "", "held": "held", "rehearsal": "rehearsed"}[self.clock]
        return f" at the {name} {clock_time(self.moment_utc, zone)}" if name else ""


def clock_time(moment_utc: datetime, zone: str) -> str:
    """Return a moment as HH:MM in an IANA zone, to the nearest minute.  Source: rules.md#words."""
    nearest = moment_utc + timedelta(seconds=30)
    return f"{nearest.astimezone(ZoneInfo(zone)):%H:%M}"


def day_words(day: date) -> str:
    """Return a date such as ``Sat 13 Feb 2027``.  Source: rules.md#words."""
    return f"{day:%a} {day.day} {day:%b %Y}"


def utc_of(unix_s: float) -> datetime:
    """Return Unix seconds as a moment in UTC, to the nearest second.

    Source: definition of Unix time.
    """
    return datetime.fromtimestamp(round(float(unix_s)), tz=UTC)
