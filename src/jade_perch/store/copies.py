"""Copies of the database: one a day, kept for a fortnight, and put back by hand."""

import re
import sqlite3
from collections.abc import Callable
from contextlib import closing, suppress
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from pathlib import Path

from jade_perch.store.connection import DATABASE_NAME, SIDE, connect_again, one_moment, own_folder
from jade_perch.store.errors import DatabaseUnusable

FOLDER = "copies"
KEPT_DAYS = 14
NAME = re.compile(r"jade-perch-(\d{4}-\d{2}-\d{2})\.sqlite3")
STEP_PAGES = 512  # copied at once, 2 MB; between two of them a writer has the disk to itself
PAUSE_S = 0.02


@dataclass(frozen=True, slots=True)
class Copy:
    """One copy: its day, where it lies, how large it is, and when it was finished."""

    day: date
    path: Path
    size_bytes: int
    made_at_utc: datetime


def list_copies(data_dir: Path) -> list[Copy]:
    """Return the copies there are, newest first."""
    found = []
    for path in (data_dir / FOLDER).glob("*.sqlite3"):
        named = NAME.fullmatch(path.name)
        with suppress(ValueError, OSError):
            if named is not None:
                told = path.stat()
                made = datetime.fromtimestamp(told.st_mtime, UTC)
                found.append(Copy(date.fromisoformat(named[1]), path, told.st_size, made))
    return sorted(found, key=lambda one: one.day, reverse=True)


def make_copy(data_dir: Path, day: date, pause: Callable[[float], object]) -> Path:
    """Copy the database of one moment whole, as the copy of a day; older ones than a fortnight go.

    The copy is made beside its place and moved there when it is whole.  Raises
    ``DatabaseUnusable`` and ``OSError``.
    """
    folder = own_folder(data_dir / FOLDER)
    path = folder / f"jade-perch-{day.isoformat()}.sqlite3"
    half = path.with_suffix(".half")
    half.unlink(missing_ok=True)
    with (
        closing(connect_again(data_dir / DATABASE_NAME)) as source,
        one_moment(source),
        closing(sqlite3.connect(half, isolation_level=None)) as target,
    ):
        source.backup(target, pages=STEP_PAGES, progress=lambda *_: pause(PAUSE_S), sleep=0)
        target.execute("PRAGMA journal_mode = DELETE")  # one file, nothing beside it
    half.chmod(0o600)
    half.replace(path)
    for old in list_copies(data_dir):
        if old.day <= day - timedelta(days=KEPT_DAYS):
            old.path.unlink(missing_ok=True)
    return path


def keep_copy(data_dir: Path, day: date, pause: Callable[[float], object]) -> Path | None:
    """Make the copy of a day unless there is one; returns where it lies, None where it did."""
    if any(one.day == day for one in list_copies(data_dir)):
        return None
    return make_copy(data_dir, day, pause)


def restore_copy(data_dir: Path, path: Path, now_utc: datetime) -> Path | None:
    """Put a copy in the place of the database; returns where what was there lies now.

    Raises ``DatabaseUnusable`` for a copy that is damaged or none; then nothing has changed.
    """
    check_copy(path)
    aside = None
    if (data_dir / DATABASE_NAME).exists():
        aside = lay_aside(data_dir, f"before-{now_utc:%Y-%m-%dT%H%M%S}")
    half = data_dir / f"{DATABASE_NAME}.half"
    half.write_bytes(path.read_bytes())
    half.chmod(0o600)
    half.replace(data_dir / DATABASE_NAME)
    return aside


def lay_aside(data_dir: Path, folder: str) -> Path:
    """Move the database of a data folder into a folder beside it, and return that."""
    aside = own_folder(data_dir / folder)
    for name in (f"{DATABASE_NAME}{side}" for side in SIDE):
        if (data_dir / name).exists():
            (data_dir / name).replace(aside / name)
    return aside


def check_copy(path: Path) -> None:
    """Raise ``DatabaseUnusable`` for a file that is no whole database of Jade Perch."""
    if not path.is_file():
        raise DatabaseUnusable(f"There is no copy {path}.")
    try:
        with closing(
            sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro&immutable=1", uri=True)
        ) as db:
            answer = db.execute("PRAGMA quick_check").fetchone()[0]
            db.execute("SELECT name FROM migration").fetchone()
    except sqlite3.Error as error:
        raise DatabaseUnusable(f"{path} cannot be used: {error}. Choose another copy.") from error
    if answer != "ok":
        raise DatabaseUnusable(f"{path} is damaged: {answer}. Choose another copy.")
