"""A damaged database found at the start: laid aside, named, and the last good copy offered."""

import sqlite3
from contextlib import closing, suppress
from datetime import date, datetime
from pathlib import Path
from typing import Literal

from pydantic import ValidationError

from jade_perch.core.errors import OutOfRange
from jade_perch.core.fields import Frozen, UtcTime
from jade_perch.store.connection import (
    DATABASE_NAME,
    connect,
    copy_database,
    for_owner_alone,
    own_folder,
)
from jade_perch.store.copies import check_copy, lay_aside, list_copies
from jade_perch.store.errors import DatabaseUnusable
from jade_perch.store.opening import bring_forward

MARK = "damage.json"  # lies beside the database until somebody has decided
# What SQLite says of a file that is damaged, and not merely busy, full or forbidden.
DAMAGED = (sqlite3.SQLITE_CORRUPT, sqlite3.SQLITE_NOTADB)
Decision = Literal["copy", "anew"]


class Damage(Frozen):
    """What was found, where the damaged file lies, and the last good copy, if there is one."""

    found_at_utc: UtcTime
    why: str
    folder: str
    copy_day: date | None = None
    copy_path: str | None = None
    copy_bytes: int | None = None

    @property
    def words(self) -> str:
        """All of it for a terminal."""
        found = f"The database is damaged ({self.why}). It lies in {self.folder} now."
        if self.copy_day is None:
            return f"{found} There is no good copy; Jade Perch begins with an empty one."
        return f"{found} The last good copy is of {self.copy_day}: the page offers to put it back."


def look_over(data_dir: Path, now_utc: datetime) -> Damage | None:
    """Check the database of a folder quickly; a damaged one is moved aside and marked.

    Returns what was found now.  Raises ``DatabaseUnusable`` for one that cannot be read at all.
    """
    path = data_dir / DATABASE_NAME
    why = _fault_of(path) if path.exists() else None
    if why is None:
        return None
    aside = lay_aside(data_dir, f"damaged-{now_utc:%Y-%m-%dT%H%M%S}")
    found = Damage(found_at_utc=now_utc, why=why, folder=str(aside.resolve()))
    for copy in list_copies(data_dir):
        with suppress(DatabaseUnusable):
            check_copy(copy.path)
            offered = {
                "copy_day": copy.day,
                "copy_path": str(copy.path.resolve()),
                "copy_bytes": copy.size_bytes,
            }
            found = found.model_copy(update=offered)
            break
    for_owner_alone(data_dir / MARK)
    (data_dir / MARK).write_text(found.model_dump_json(), "utf-8")
    return found


def _fault_of(path: Path) -> str | None:
    """Return what is wrong with a database, or None where it is whole or somebody writes it."""
    try:
        with closing(connect(path)) as db:
            answer = str(db.execute("PRAGMA quick_check(1)").fetchone()[0])
    except DatabaseUnusable as error:
        cause = error.__cause__
        if isinstance(cause, sqlite3.Error) and is_damage(cause):
            return str(cause)
        raise
    except sqlite3.Error as error:
        if is_damage(error):
            return str(error)
        raise DatabaseUnusable(f"{path} cannot be checked: {error}.") from error
    return None if answer == "ok" else " ".join(answer.split())


def is_damage(error: sqlite3.Error) -> bool:
    """Return whether an error of SQLite says that the file is damaged."""
    return (getattr(error, "sqlite_errorcode", 0) & 0xFF) in DAMAGED


def damage_of(data_dir: Path) -> Damage | None:
    """Return what was found damaged and not decided yet."""
    try:
        return Damage.model_validate_json((data_dir / MARK).read_text("utf-8"))
    except (OSError, ValidationError):
        return None


def decide(data_dir: Path, decision: Decision, now_utc: datetime) -> Path | None:
    """Put the offered copy back, or go on without it; the mark goes away.

    What was entered since is kept in a folder of its own, which is returned.  Raises
    ``OutOfRange`` where nothing is offered, ``DatabaseUnusable`` where the copy is no good now.
    """
    found = damage_of(data_dir)
    aside = None
    if decision == "copy":
        if found is None or found.copy_path is None:
            cure = "Go on without it; the damaged file stays where it is."
            raise OutOfRange("take", decision, "anew, for there is no copy to put back", cure)
        check_copy(Path(found.copy_path))
        aside = own_folder(data_dir / f"before-{now_utc:%Y-%m-%dT%H%M%S}")
        copy_database(data_dir / DATABASE_NAME, aside / DATABASE_NAME)
        # over the database in its place, as one change: whoever has it open reads on
        copy_database(Path(found.copy_path), data_dir / DATABASE_NAME)
        with closing(connect(data_dir / DATABASE_NAME)) as db:
            bring_forward(db, now_utc)
    (data_dir / MARK).unlink(missing_ok=True)
    return aside
