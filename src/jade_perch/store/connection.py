"""The one door to the database, and the one door to a transaction."""

import fcntl
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from jade_perch.store.errors import DatabaseUnusable

DATABASE_NAME = "jade-perch.sqlite3"
BUSY_MS = 5000  # how long a writer waits for another one


def connect(path: Path) -> sqlite3.Connection:
    """Open (or create) the database at ``path`` with foreign keys on, WAL and full syncing.

    Transactions are begun by ``atomic`` alone.  A request's dependency and its route may run in
    different worker threads, hence no thread check; no connection serves two requests.
    Raises ``DatabaseUnusable`` when the file is no database.
    """
    try:
        db = sqlite3.connect(path, isolation_level=None, check_same_thread=False)
        db.row_factory = sqlite3.Row
        db.execute("PRAGMA foreign_keys = ON")
        db.execute("PRAGMA journal_mode = WAL")
        db.execute("PRAGMA synchronous = FULL")
        db.execute(f"PRAGMA busy_timeout = {BUSY_MS}")
    except sqlite3.Error as error:
        raise DatabaseUnusable(f"{path} cannot be opened as a database: {error}.") from error
    return db


def copy_database(source: Path, copy: Path) -> None:
    """Copy a database whole, as it stands in one moment; raises ``DatabaseUnusable``."""
    db, other = connect(source), connect(copy)
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
    data_dir.mkdir(parents=True, exist_ok=True)
    with (data_dir / "in-use").open("w") as mark:
        try:
            fcntl.flock(mark, (fcntl.LOCK_EX if alone else fcntl.LOCK_SH) | fcntl.LOCK_NB)
        except OSError as error:
            who = "Jade Perch runs" if alone else "A copy is being put back"
            raise DatabaseUnusable(f"{who} with {data_dir}. End it first, then again.") from error
        yield


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
