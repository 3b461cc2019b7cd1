"""The one clock: the real time, a moment held still, or an evening that runs at its own rate."""

import time
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from jade_perch.core.errors import OutOfRange
from jade_perch.core.moments import ClockKind, Now
from jade_perch.core.sky.cover import require_covered

FASTEST_RATE = 3600.0  # an hour in a second; faster shows nothing
Seconds = Callable[[], float]


@dataclass(frozen=True)
class Clock:
    """The real time, or one that began at ``start_utc`` and goes ``rate`` times as fast.

    A ``rate`` of 0 holds it still.  ``seconds`` is the counter it runs by.
    """

    start_utc: datetime | None = None
    rate: float = 0.0
    began_s: float = 0.0
    seconds: Seconds = time.monotonic

    def now_utc(self) -> datetime:
        """Return the present moment in UTC, to the second."""
        if self.start_utc is None:
            return self.real_utc().replace(microsecond=0)
        past_s = self.rate * (self.seconds() - self.began_s) if self.rate else 0.0
        return self.start_utc + timedelta(seconds=round(past_s))

    def real_utc(self) -> datetime:
        """Return what a stopwatch reads: the real time, whatever evening is rehearsed."""
        return datetime.now(UTC)

    def now(self) -> Now:
        """Return the present moment, and what kind of clock tells it."""
        return Now(self.now_utc(), self.kind)

    @property
    def kind(self) -> ClockKind:
        """Whether it is the real one, stands still, or runs through a rehearsal."""
        if self.start_utc is None:
            return "real"
        return "rehearsal" if self.rate else "held"


class HouseClock:
    """The clock everything goes by: its own, or for a while the one of a rehearsal."""

    def __init__(self, own: Clock) -> None:
        self.own = own
        self.rehearsed: Clock | None = None

    @property
    def current(self) -> Clock:
        """The clock that goes now."""
        return self.rehearsed or self.own

    def now_utc(self) -> datetime:
        """Return the present moment in UTC, to the second."""
        return self.current.now_utc()

    def real_utc(self) -> datetime:
        """Return what a stopwatch reads."""
        return self.current.real_utc()

    def now(self) -> Now:
        """Return the present moment, and what kind of clock tells it."""
        return self.current.now()

    @property
    def pace(self) -> float:
        """How many seconds pass on it in one: 1 for the real one, 0 while it is held."""
        return 1.0 if self.current.start_utc is None else self.current.rate

    @property
    def rate(self) -> float:
        """How many times as fast as set it goes; 0 for the real one and for one held."""
        return self.current.rate

    @property
    def kind(self) -> ClockKind:
        """Whether it is the real one, stands still, or runs through a rehearsal."""
        return self.current.kind


def parse_clock(text: str | None, seconds: Seconds = time.monotonic) -> Clock:
    """Return the clock for ``--clock``.

    None or ``now`` is the real time; a time with its offset is held; with ``@60`` behind it
    it runs on from there, sixty times as fast.

    Raises ``OutOfRange`` for text that is no such time, or one outside the ephemeris.
    """
    if text in (None, "now"):
        return Clock()
    moment_text, at, rate_text = str(text).partition("@")
    allowed = "now, or a time such as 2027-02-13T17:10+01:00, or that with @60 to run"
    try:
        moment = datetime.fromisoformat(moment_text)
        rate = float(rate_text) if at else 0.0
    except ValueError as error:
        raise OutOfRange("--clock", text, allowed, "Correct the time.") from error
    if moment.tzinfo is None:
        raise OutOfRange("--clock", text, allowed, "Add the offset from UTC.")
    if not 0 <= rate <= FASTEST_RATE:
        raise OutOfRange("--clock", rate_text, f"@0 to @{FASTEST_RATE:g}", "Choose another rate.")
    require_covered(moment.astimezone(UTC), "--clock")
    return Clock(moment.astimezone(UTC), rate, seconds(), seconds)
