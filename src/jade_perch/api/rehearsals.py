"""A rehearsal: the same evening by day, on a copy of the database and a clock of its own.

Nothing that is done in it reaches the database of the real evenings; it ends with the application.
"""

import atexit
import shutil
import tempfile
import threading
import uuid
from contextlib import closing
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from jade_perch.core.errors import OutOfRange
from jade_perch.devices.clock import Clock, HouseClock
from jade_perch.store.connection import DATABASE_NAME, connect, copy_database
from jade_perch.store.sittings import forget_sittings


class OtherWorld(OutOfRange):
    """A change is meant for the evening and comes into a rehearsal, or the other way round."""


@dataclass(frozen=True)
class Rehearsal:
    """One rehearsal: its name, and the folder its copy lives in."""

    name: str
    folder: Path
    is_whole_run: bool

    @property
    def database(self) -> Path:
        """The copy it plays on."""
        return self.folder / DATABASE_NAME


class Stage:
    """Where the application plays: on the real database, or on the copy of a rehearsal."""

    def __init__(self, data_dir: Path, clock: HouseClock) -> None:
        self.data_dir, self.clock = data_dir, clock
        self._running: Rehearsal | None = None
        self._lock = threading.Lock()

    @property
    def rehearsal(self) -> Rehearsal | None:
        """The rehearsal that runs; the whole run is one where the application's own clock runs."""
        with self._lock:
            if self._running is None and self.clock.own.kind == "rehearsal":
                self._running = self._copied(is_whole_run=True)
            return self._running

    @property
    def database(self) -> Path:
        """The database that is played on now."""
        running = self.rehearsal
        return running.database if running else self.data_dir / DATABASE_NAME

    @property
    def name(self) -> str:
        """The name of the rehearsal that runs; empty on a real evening."""
        running = self.rehearsal
        return running.name if running else ""

    def begin(self, from_utc: datetime, rate: float) -> None:
        """Begin a rehearsal from a moment, so many times as fast; one that runs ends first."""
        self.end()
        with self._lock:
            self._running = self._copied(is_whole_run=False)
        seconds = self.clock.own.seconds
        self.clock.rehearsed = Clock(from_utc, rate, seconds(), seconds)

    def pace(self, rate: float) -> None:
        """Let the rehearsal that runs go on from where it is at another rate."""
        if self.rehearsal is None or self.clock.rehearsed is None:
            raise OutOfRange("rate", rate, "while a rehearsal runs", "Begin one first.")
        seconds = self.clock.own.seconds
        self.clock.rehearsed = Clock(self.clock.now_utc(), rate, seconds(), seconds)

    def end(self) -> None:
        """End the rehearsal, and forget all of it; nothing where none runs.

        Raises ``OutOfRange`` where the whole run is one, by the clock it was started with.
        """
        running = self.rehearsal
        if running is None:
            return
        if running.is_whole_run:
            cure = "Stop the application, and start it without --clock."
            raise OutOfRange("rehearsal", "the whole run", "a rehearsal begun here", cure)
        with self._lock:
            self._running, self.clock.rehearsed = None, None
        shutil.rmtree(running.folder, ignore_errors=True)

    def require_same(self, meant: str | None) -> None:
        """Raise ``OtherWorld`` for a change meant for another world; None says nothing of it."""
        if meant is None or meant == self.name:
            return
        given = f"a change of {'a rehearsal' if meant else 'the evening itself'}"
        now = "a rehearsal runs" if self.name else "the evening itself"
        raise OtherWorld("rehearsal", given, now, "Look again at what is shown, then repeat it.")

    def _copied(self, *, is_whole_run: bool) -> Rehearsal:
        folder = Path(tempfile.mkdtemp(prefix="jade-perch-rehearsal-"))
        atexit.register(shutil.rmtree, folder, ignore_errors=True)
        rehearsal = Rehearsal(uuid.uuid4().hex[:12], folder, is_whole_run)
        copy_database(self.data_dir / DATABASE_NAME, rehearsal.database)
        with closing(connect(rehearsal.database)) as db:
            forget_sittings(db)
        return rehearsal
