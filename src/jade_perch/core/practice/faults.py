"""Faults of a level or a compass: what each does to the readings."""

from collections.abc import Sequence
from typing import Literal

Fault = Literal["none", "stops", "jumps", "rubbish"]
FAULT_EVERY = 40  # a jump or a line of rubbish comes once in so many readings
LEAP_DEG = 12.0  # far beyond noise, so that a single one can be told; our choice
RUBBISH = "\x00 not a reading {"


def is_faulty(fault: Fault, seq: int) -> bool:
    """Return whether a fault shows at a reading, counted from 0.  Source: our own choice."""
    if fault == "stops":
        return True
    return fault != "none" and seq % FAULT_EVERY == FAULT_EVERY - 1


def faulted_deg(fault: Fault, seq: int, values_deg: Sequence[float]) -> tuple[float, ...]:
    """Return values in degrees as a faulty instrument sends them: the first leaps now and then.

    Source: our own choice.
    """
    leap_deg = LEAP_DEG if fault == "jumps" and is_faulty(fault, seq) else 0.0
    first, *rest = values_deg
    return (first + leap_deg, *rest)
