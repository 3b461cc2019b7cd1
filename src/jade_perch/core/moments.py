"""Moments: Unix seconds, in which the sky is computed, and the UTC that people are told."""

from datetime import UTC, datetime


def utc_of(unix_s: float) -> datetime:
    """Return Unix seconds as a moment in UTC, to the nearest second.

    Source: definition of Unix time.
    """
    return datetime.fromtimestamp(round(float(unix_s)), tz=UTC)
