"""A simulated level and compass that speak the same JSON lines as real ones, faults included."""

from collections import deque
from collections.abc import Iterator
from random import Random
from typing import Annotated, Literal

from jade_perch.core.bench.instrument import Kind, line_text
from jade_perch.core.fields import Frozen, Range

Fault = Literal["none", "stops", "jumps", "rubbish"]
FAULT_EVERY = 40  # a jump or a line of rubbish comes once in so many readings
MOST_WAITING = 1000  # lines of a fed device kept until somebody looks; older ones are dropped


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
    if settings.fault == "stops":
        return None
    turn = seq % FAULT_EVERY == FAULT_EVERY - 1
    if turn and settings.fault == "rubbish":
        return "\x00 not a reading {"
    leap = 12.0 if turn and settings.fault == "jumps" else 0.0
    noise = [dice.gauss(0, settings.noise_deg) for _ in range(2)]
    if kind == "compass":
        bearing = (settings.bearing_deg + settings.iron_deg + noise[0] + leap) % 360
        return line_text("compass", seq, bearing_deg=round(bearing, 3))
    return line_text(
        "level",
        seq,
        along_deg=round(settings.along_deg + noise[0] + leap, 4),
        across_deg=round(settings.across_deg + noise[1], 4),
    )


def simulated_lines(
    kind: Kind, settings: InstrumentSettings, seed: int = 1
) -> Iterator[str | None]:
    """Yield the lines of a stand-in without end, as fast as they are asked for."""
    dice, seq = Random(seed), 0
    while True:
        yield simulated_line(kind, settings, seq, dice)
        seq += 1


class InstrumentHub:
    """Where the page reads instruments: the stand-ins, or the lines a real device was fed with.

    Once a device has sent a line it is listened to instead of the stand-in.
    """

    def __init__(self) -> None:
        self.settings: dict[Kind, InstrumentSettings] = {
            "level": InstrumentSettings(),
            "compass": InstrumentSettings(),
        }
        self._fed: dict[Kind, deque[str]] = {}

    def feed(self, kind: Kind, lines: list[str]) -> int:
        """Take lines of a real device; returns how many wait to be read."""
        waiting = self._fed.setdefault(kind, deque(maxlen=MOST_WAITING))
        waiting.extend(lines)
        return len(waiting)

    def unplug(self, kind: Kind) -> None:
        """Forget a real device and listen to the stand-in again."""
        self._fed.pop(kind, None)

    def is_fed(self, kind: Kind) -> bool:
        """Return whether a real device is listened to."""
        return kind in self._fed

    def fed_lines(self, kind: Kind) -> list[str]:
        """Return and forget the lines that wait."""
        waiting = self._fed.get(kind)
        lines: list[str] = []
        while waiting:
            lines.append(waiting.popleft())
        return lines
