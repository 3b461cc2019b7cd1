"""A simulated level and compass that speak the same JSON lines as real ones, faults included."""

from collections.abc import Iterator
from random import Random
from typing import Annotated

from jade_perch.core.bench.instrument import Kind, simulated_text
from jade_perch.core.fields import Frozen, Range
from jade_perch.core.practice.faults import RUBBISH, Fault, faulted_deg, is_faulty


class InstrumentSettings(Frozen):
    """What a simulated instrument would show, and what is wrong with it."""

    along_deg: Annotated[float, Range(-30, 30, "°", "Tilt the stand-in less.")] = 0.35
    across_deg: Annotated[float, Range(-30, 30, "°", "Tilt the stand-in less.")] = -0.2
    bearing_deg: Annotated[float, Range(0, 360, "°", "Where the mark points, magnetic.")] = 350.0
    iron_deg: Annotated[float, Range(-90, 90, "°", "What iron adds to a compass.")] = 0.0
    noise_deg: Annotated[float, Range(0, 5, "°", "How much the readings dance.")] = 0.02
    rate_hz: Annotated[float, Range(1, 60, "a second", "Between 1 and 60.")] = 30.0
    fault: Fault = "none"


def simulated_line(kind: Kind, settings: InstrumentSettings, seq: int, dice: Random) -> str | None:
    """Return the next line of a stand-in, or None while it is silent."""
    fault = settings.fault
    if fault in ("stops", "rubbish") and is_faulty(fault, seq):
        return None if fault == "stops" else RUBBISH
    noise = [dice.gauss(0, settings.noise_deg) for _ in range(2)]
    if kind == "compass":
        bearing = settings.bearing_deg + settings.iron_deg + noise[0]
        (shown,) = faulted_deg(fault, seq, [bearing])
        return simulated_text("compass", seq, bearing_deg=round(shown % 360, 3))
    level = [settings.along_deg + noise[0], settings.across_deg + noise[1]]
    along, across = faulted_deg(fault, seq, level)
    return simulated_text("level", seq, along_deg=round(along, 4), across_deg=round(across, 4))


def simulated_lines(
    kind: Kind, settings: InstrumentSettings, seed: int = 1
) -> Iterator[str | None]:
    """Yield the lines of a stand-in without end, as fast as they are asked for."""
    dice, seq = Random(seed), 0
    while True:
        yield simulated_line(kind, settings, seq, dice)
        seq += 1
