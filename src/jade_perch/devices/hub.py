"""Where instruments are read: one reader a kind, however many listen, and each hears all of it."""

import asyncio
import time
from collections import deque
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from random import Random

from jade_perch.core.bench.instrument import (
    SILENT_AFTER_S,
    Kind,
    Shown,
    Watch,
    silent,
    watch_line,
)
from jade_perch.standins.instruments import InstrumentSettings, simulated_line

MOST_WAITING = 1000  # lines of a fed device kept until somebody looks; older ones are dropped
FED_LOOK_S = 1 / 30  # how often a fed device is looked at


class InstrumentHub:
    """The stand-ins, or the lines a real device was fed with, judged once for all listeners.

    Once a device has sent a line it is listened to instead of the stand-in.  ``tell`` gets
    every judged reading; a reader runs only while somebody listens.
    """

    def __init__(self, tell: Callable[[Shown], None] = lambda _: None) -> None:
        self.tell = tell
        self.settings: dict[Kind, InstrumentSettings] = {
            "level": InstrumentSettings(),
            "compass": InstrumentSettings(),
        }
        self._fed: dict[Kind, deque[str]] = {}
        self._simulated: dict[Kind, bool] = {}
        self._listeners: dict[Kind, int] = {"level": 0, "compass": 0}
        self._readers: dict[Kind, asyncio.Task[None]] = {}

    def feed(self, kind: Kind, lines: list[str]) -> int:
        """Take lines of a real device; returns how many wait to be read."""
        waiting = self._fed.setdefault(kind, deque(maxlen=MOST_WAITING))
        waiting.extend(lines)
        return len(waiting)

    def unplug(self, kind: Kind) -> None:
        """Forget a real device and listen to the stand-in again."""
        self._fed.pop(kind, None)
        self._simulated.pop(kind, None)

    def is_fed(self, kind: Kind) -> bool:
        """Return whether a real device is listened to."""
        return kind in self._fed

    def is_simulated(self, kind: Kind) -> bool:
        """Return whether what is listened to is a stand-in, here or at the end of a cable."""
        return self._simulated.get(kind, True)

    def fed_lines(self, kind: Kind) -> list[str]:
        """Return and forget the lines that wait."""
        waiting = self._fed.get(kind)
        lines: list[str] = []
        while waiting:
            lines.append(waiting.popleft())
        return lines

    @contextmanager
    def listening(self, kinds: Iterable[Kind]) -> Iterator[None]:
        """Keep readers running for some kinds; the first listener starts one, the last ends it."""
        wanted = list(dict.fromkeys(kinds))
        for kind in wanted:
            self._listeners[kind] += 1
            if self._listeners[kind] == 1:
                self._readers[kind] = asyncio.get_running_loop().create_task(self._read(kind))
        try:
            yield
        finally:
            for kind in wanted:
                self._listeners[kind] -= 1
                if self._listeners[kind] == 0:
                    self._readers.pop(kind).cancel()

    async def _read(self, kind: Kind) -> None:
        watch, dice, seq = Watch(kind), Random(1), 0
        heard = due = time.monotonic()
        while True:
            if self.is_fed(kind):
                lines, step_s = self.fed_lines(kind), FED_LOOK_S
            else:
                settings = self.settings[kind]
                one = simulated_line(kind, settings, seq, dice)
                lines, step_s, seq = [] if one is None else [one], 1 / settings.rate_hz, seq + 1
            for line in lines:
                watch, shown = watch_line(watch, line)
                heard = time.monotonic()
                self._simulated[kind] = shown.is_simulated
                self.tell(shown)
            if time.monotonic() - heard > SILENT_AFTER_S:
                heard = time.monotonic()
                self.tell(silent(watch))
            # late once is caught up with, so that no reading is dropped; a sleep of hours is not
            due = max(due + step_s, time.monotonic() - SILENT_AFTER_S)
            await asyncio.sleep(max(0.0, due - time.monotonic()))
