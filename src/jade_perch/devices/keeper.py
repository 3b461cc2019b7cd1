"""Whoever makes the daily copy: once at the start, and again on every new day."""

import logging
import threading
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date

LOOK_EVERY_S = 600.0  # so late after midnight the new day's copy begins at most
Sleep = Callable[[float], object]


@dataclass(frozen=True, slots=True)
class Failed:
    """Why the last copy could not be made."""

    words: str


class Keeper:
    """A thread that has the copy of today made, and says so when that fails.

    ``make`` makes the copy of a day where there is none, and pauses as it is told.
    """

    def __init__(self, make: Callable[[date, Sleep], object], today: Callable[[], date]) -> None:
        self._make, self._today = make, today
        self._ended = threading.Event()
        self._thread: threading.Thread | None = None
        self.failed: Failed | None = None

    def start(self) -> None:
        """Begin; the first copy is made in the background."""
        self._thread = threading.Thread(target=self._run, name="daily copy", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """End, and wait for a copy that is being made to be left."""
        self._ended.set()
        if self._thread is not None:
            self._thread.join(timeout=2)

    def look(self) -> None:
        """Have today's copy made; a failure is kept to be told, and tried again later."""
        try:
            self._make(self._today(), self._pause)
            self.failed = None
        except _Ended:
            return
        except Exception as error:
            logging.getLogger(__name__).warning("The daily copy failed: %s", error)
            self.failed = Failed(str(error))

    def _run(self) -> None:
        while not self._ended.is_set():
            self.look()
            self._ended.wait(LOOK_EVERY_S)

    def _pause(self, seconds: float) -> None:
        if self._ended.wait(seconds):
            raise _Ended


class _Ended(Exception):
    """The application ends while a copy is being made."""
