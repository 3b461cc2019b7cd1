"""The dates the shipped ephemeris reaches: nothing is said of any other."""

from datetime import UTC, date, datetime, timedelta

from jade_perch.core.errors import OutOfRange

FIRST_UTC = datetime(1899, 8, 1, tzinfo=UTC)  # DE421 begins 1899-07-28
LAST_UTC = datetime(2053, 10, 1, tzinfo=UTC)  # DE421 ends 2053-10-08
ONE_DAY = timedelta(days=1)


def require_covered(moment_utc: datetime, field: str = "date") -> None:
    """Raise ``OutOfRange`` when the ephemeris does not reach ``moment_utc``.

    Source: rules.md#positions.
    """
    if not FIRST_UTC <= moment_utc <= LAST_UTC:
        raise _uncovered(field, moment_utc.date())


def covered_date(day: date) -> date:
    """Return ``day``, or raise ``OutOfRange`` when its night is not in the ephemeris.

    Source: rules.md#positions.
    """
    if not is_covered(day):
        raise _uncovered("date", day)
    return day


def is_covered(day: date) -> bool:
    """Return whether the night of a date is in the ephemeris.  Source: rules.md#positions."""
    return FIRST_UTC.date() + ONE_DAY < day < LAST_UTC.date() - ONE_DAY


def _uncovered(field: str, day: date) -> OutOfRange:
    return OutOfRange(
        field,
        day.isoformat(),
        f"{FIRST_UTC.date() + 2 * ONE_DAY} to {LAST_UTC.date() - 2 * ONE_DAY}",
        "The shipped ephemeris DE421 knows no other dates; choose one inside.",
    )
