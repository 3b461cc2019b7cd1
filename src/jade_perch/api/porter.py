"""Whoever carries everything out and in: one at a time, with how far it is."""

import atexit
import shutil
import tempfile
import threading
import uuid
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
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


@dataclass(frozen=True, slots=True)
class Incoming:
    """A zip that came in: the key it is asked for by, and where it lies."""

    key: str
    path: Path


class Porter:
    """A folder of its own, the zip that goes out, the one that came in, and how far things are."""

    def __init__(self) -> None:
        self._folder: Path | None = None
        self._busy = threading.Lock()
        self._doing: Doing = "nothing"
        self._done = self._total = 0
        self._incoming: Incoming | None = None

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

    def expect_file(self) -> Incoming:
        """Return a new name and place for a zip that comes in now."""
        key = uuid.uuid4().hex
        return Incoming(key, self.folder / f"{key}.zip")

    def came(self, incoming: Incoming) -> None:
        """Keep a zip that came in; the one that came before goes."""
        if self._incoming is not None:
            self._incoming.path.unlink(missing_ok=True)
        self._incoming = incoming

    def require_incoming(self, key: str) -> Path:
        """Return the zip that came in under a key.

        Raises ``OutOfRange`` where none did, or another one came meanwhile from another page.
        """
        cure = "Choose the file again."
        if self._incoming is None:
            raise OutOfRange("file", "(nothing)", "a zip that was sent", cure)
        if self._incoming.key != key:
            raise OutOfRange("file", "another one", "the zip that was sent last", cure)
        return self._incoming.path

    def let_go(self) -> None:
        """Forget the zip that came in."""
        if self._incoming is not None:
            self._incoming.path.unlink(missing_ok=True)
        self._incoming = None


@contextmanager
def written(path: Path) -> Iterator[Path]:
    """Write a file beside its place, and move it there once it is whole."""
    half = path.with_suffix(".half")
    try:
        yield half
        half.replace(path)
    finally:
        half.unlink(missing_ok=True)
