"""The one clock: the real time, or a moment held still to rehearse an evening by day."""

from dataclasses import dataclass
from datetime import UTC, datetime

from jade_perch.core.errors import OutOfRange
from jade_perch.core.sky.ephemeris import require_covered


@dataclass(frozen=True)
class Clock:
    """``now_utc`` is the real time, or ``frozen_utc`` where one was given."""

    frozen_utc: datetime | None = None

    def now_utc(self) -> datetime:
        """Return the present moment in UTC, to the second."""
        return self.frozen_utc or datetime.now(UTC).replace(microsecond=0)


def parse_clock(text: str | None) -> Clock:
    """Return the clock for ``--clock``: None or ``now`` runs, a time with its offset is held.

    Raises ``OutOfRange`` for text that is no such time, or one outside the ephemeris.
    """
    if text in (None, "now"):
        return Clock()
    allowed = "now, or a time such as 2027-02-13T17:10+01:00"
    try:
        moment = datetime.fromisoformat(str(text))
    except ValueError as error:
        raise OutOfRange("--clock", text, allowed, "Correct the time.") from error
    if moment.tzinfo is None:
        raise OutOfRange("--clock", text, allowed, "Add the offset from UTC.")
    require_covered(moment.astimezone(UTC), "--clock")
    return Clock(frozen_utc=moment.astimezone(UTC))
