"""Moments: Unix seconds, in which the sky is computed, and the UTC that people are told."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from itertools import takewhile
from typing import Literal
from zoneinfo import ZoneInfo

from jade_perch.core.fields import Frozen

STEP = timedelta(hours=1)  # between two looks at a zone's clock, which changes far more rarely
STEPS_AROUND = 48  # looked at to both sides: an evening and the days beside it

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


class ZoneAhead(Frozen):
    """How far a zone's clock is ahead of UTC, and from when until when it surely stays so.

    Whoever has this can tell the zone's time by adding, without knowing the zones of the world.
    """

    zone: str
    start_utc: datetime
    end_utc: datetime
    ahead_s: int


def zone_ahead(zone: str, moment_utc: datetime) -> ZoneAhead:
    """Return how far an IANA zone is ahead of UTC at a moment, and for how long around it.

    At most two days to both sides; a change of the clock ends it within the hour before or after.
    Source: definition, IANA time zone data.
    """
    here = moment_utc.astimezone(ZoneInfo(zone))
    return ZoneAhead(
        zone=zone,
        start_utc=_last_like(here, -STEP),
        end_utc=_last_like(here, STEP),
        ahead_s=round(_ahead(here).total_seconds()),
    )


def _last_like(here: datetime, step: timedelta) -> datetime:
    """Return the last moment, step by step, at which the clock is as far ahead as here."""
    moments = (here.astimezone(UTC) + n * step for n in range(STEPS_AROUND + 1))
    alike = takewhile(lambda at: _ahead(at.astimezone(here.tzinfo)) == _ahead(here), moments)
    return list(alike)[-1]


def _ahead(local: datetime) -> timedelta:
    return local.utcoffset() or timedelta(0)


def day_words(day: date) -> str:
    """Return a date such as ``Sat 13 Feb 2027``.  Source: rules.md#words."""
    return f"{day:%a} {day.day} {day:%b %Y}"


def utc_of(unix_s: float) -> datetime:
    """Return Unix seconds as a moment in UTC, to the nearest second.

    Source: definition of Unix time.
    """
    return datetime.fromtimestamp(round(float(unix_s)), tz=UTC)
