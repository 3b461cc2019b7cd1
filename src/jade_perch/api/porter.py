"""Whoever carries everything out and in: one at a time, with how far it is."""

import atexit
import shutil
import tempfile
import threading
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Literal, TypeVar

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen

T = TypeVar("T")
Doing = Literal["nothing", "packing", "reading", "taking in"]


class Progress(Frozen):
    """What is being carried, and how many things of how many are done; 0 of 0 is not known yet."""

    doing: Doing
    done: int
    total: int


class Porter:
    """A folder of its own, the zip that goes out, the one that came in, and how far things are."""

    def __init__(self) -> None:
        self._folder: Path | None = None
        self._busy = threading.Lock()
        self._doing: Doing = "nothing"
        self._done = self._total = 0

    @property
    def folder(self) -> Path:
        """A folder that goes with the application."""
        if self._folder is None:
            self._folder = Path(tempfile.mkdtemp(prefix="jade-perch-carried-"))
            atexit.register(shutil.rmtree, self._folder, ignore_errors=True)
        return self._folder

    @property
    def outgoing(self) -> Path:
        """Where the zip lies that was packed last."""
        return self.folder / "everything.zip"

    @property
    def incoming(self) -> Path:
        """Where the zip lies that was sent last."""
        return self.folder / "incoming.zip"

    @property
    def progress(self) -> Progress:
        """How far things are."""
        return Progress(doing=self._doing, done=self._done, total=self._total)

    @contextmanager
    def carrying(self, doing: Doing, total: int) -> Iterator[None]:
        """Do one thing; raises ``OutOfRange`` while another one is done."""
        if not self._busy.acquire(blocking=False):
            cure = "Wait until it is done."
            raise OutOfRange("everything", f"still {self._doing}", "one thing at a time", cure)
        self._doing, self._done, self._total = doing, 0, total
        try:
            yield
        finally:
            self._doing, self._done, self._total = "nothing", 0, 0
            self._busy.release()

    def expect(self, total: int) -> None:
        """Say how many things there are, once that is known."""
        self._total = total

    def counted(self, things: Iterable[T]) -> Iterator[T]:
        """Yield things, each counted as done."""
        for one in things:
            self._done += 1
            yield one

    def require_incoming(self) -> Path:
        """Return the zip that came in; raises ``OutOfRange`` where none did."""
        if not self.incoming.is_file():
            raise OutOfRange("file", "(nothing)", "a zip that was sent", "Choose the file again.")
        return self.incoming


@contextmanager
def written(path: Path) -> Iterator[Path]:
    """Write a file beside its place, and move it there once it is whole."""
    half = path.with_suffix(".half")
    try:
        yield half
        half.replace(path)
    finally:
        half.unlink(missing_ok=True)
