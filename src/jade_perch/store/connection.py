"""The one door to the database, and the one door to a transaction."""

import fcntl
import os
import sqlite3
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO

from jade_perch.core.fields import folded
from jade_perch.store.errors import DatabaseUnusable

DATABASE_NAME = "jade-perch.sqlite3"
SIDE = ("", "-wal", "-shm")  # what a database consists of, by the ends of its names
BUSY_MS = 5000  # how long a writer waits for another one
AGAIN_MS = 50


def connect(path: Path) -> sqlite3.Connection:
    """Open (or create, for its owner alone) the database at ``path``.

    Foreign keys are on, its log is written ahead, every commit reaches the disk, and ``folded`` is
    known.  Transactions are begun by ``atomic`` alone.  A request's dependency and its route may
    run in different worker threads, hence no thread check; no connection serves two requests.
    Raises ``DatabaseUnusable`` when the file is no database, or cannot be used.
    """
    return _open(path, makes=True)


def connect_again(path: Path) -> sqlite3.Connection:
    """Open a database that was made ready before, as ``connect`` does, and never make one.

    Raises ``DatabaseUnusable`` where it is gone, too.
    """
    try:
        return _open(path, makes=False)
    except DatabaseUnusable:
        if path.exists():
            raise
        gone = f"{path} is gone. End Jade Perch, put it back, and start again."
        raise DatabaseUnusable(gone) from None


def _open(path: Path, *, makes: bool) -> sqlite3.Connection:
    """Open a file, made first if it may be; SQLite makes none where it is taken away meanwhile."""
    try:
        if makes:
            for_owner_alone(path)
        db = sqlite3.connect(
            f"{path.absolute().as_uri()}?mode=rw",
            uri=True,
            timeout=BUSY_MS / 1000,
            isolation_level=None,
            check_same_thread=False,
        )
        db.row_factory = sqlite3.Row
        db.create_function("folded", 1, folded, deterministic=True)
        db.execute("PRAGMA foreign_keys = ON")
        _write_ahead(db)
        db.execute("PRAGMA synchronous = FULL")
    except (sqlite3.Error, OSError) as error:
        raise DatabaseUnusable(f"{path} cannot be opened as a database: {error}.") from error
    return db


def for_owner_alone(path: Path) -> None:
    """Make a file where there is none, which nobody but its owner may read or write."""
    if not path.exists():
        os.close(os.open(path, os.O_CREAT | os.O_RDWR, 0o600))


def own_folder(path: Path) -> Path:
    """Return a folder, made for its owner alone where there is none."""
    if not path.is_dir():
        path.mkdir(parents=True, exist_ok=True, mode=0o700)
    return path


def _write_ahead(db: sqlite3.Connection) -> None:
    """Have changes logged ahead; two that begin at once both try, and one of them has to wait.

    SQLite does not wait for this change by itself.
    """
    for left in range(BUSY_MS // AGAIN_MS, -1, -1):
        try:
            db.execute("PRAGMA journal_mode = WAL")
        except sqlite3.OperationalError as error:
            if not is_busy(error) or not left:
                raise
            time.sleep(AGAIN_MS / 1000)
        else:
            return


def is_busy(error: sqlite3.Error) -> bool:
    """Return whether an error says that another one holds the database just now."""
    return (error.sqlite_errorcode & 0xFF) in (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED)


def copy_database(source: Path, copy: Path) -> None:
    """Copy a database whole, as it stands in one moment; raises ``DatabaseUnusable``."""
    db, other = connect_again(source), connect(copy)
    try:
        db.backup(other)
    except sqlite3.Error as error:
        raise DatabaseUnusable(f"{source} cannot be copied: {error}.") from error
    finally:
        other.close()
        db.close()


@contextmanager
def in_use(data_dir: Path, *, alone: bool) -> Iterator[None]:
    """Use a data folder for a while: together with others, or ``alone``.

    Raises ``DatabaseUnusable`` where that cannot be.  The mark goes with the process, however it
    ends.
    """
    with _mark(own_folder(data_dir) / "in-use") as mark:
        try:
            fcntl.flock(mark, (fcntl.LOCK_EX if alone else fcntl.LOCK_SH) | fcntl.LOCK_NB)
        except OSError as error:
            who = "Jade Perch runs" if alone else "A copy is being put back"
            raise DatabaseUnusable(f"{who} with {data_dir}. End it first, then again.") from error
        yield


@contextmanager
def one_at_a_time(data_dir: Path) -> Iterator[None]:
    """Run a block while no other process runs one for the same data folder; others wait.

    Two that are started at once both come up: the second finds what the first has made.
    """
    with _mark(own_folder(data_dir) / "opening") as mark:
        fcntl.flock(mark, fcntl.LOCK_EX)
        yield


def _mark(path: Path) -> IO[bytes]:
    return os.fdopen(os.open(path, os.O_CREAT | os.O_RDWR, 0o600), "wb")


@contextmanager
def one_moment(db: sqlite3.Connection) -> Iterator[None]:
    """Read the state of one moment for as long as a block runs, whatever others write meanwhile."""
    db.execute("BEGIN")
    db.execute("SELECT count(*) FROM sqlite_master").fetchone()
    try:
        yield
    finally:
        db.rollback()


@contextmanager
def atomic(db: sqlite3.Connection) -> Iterator[None]:
    """Run a block as one transaction: all of it is stored, or nothing."""
    db.execute("BEGIN IMMEDIATE")
    try:
        yield
    except BaseException:
        db.rollback()
        raise
    db.commit()
