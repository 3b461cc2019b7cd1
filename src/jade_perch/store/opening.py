"""A database made ready to be used: its schema brought forward, older records settled."""

import sqlite3
from contextlib import closing, suppress
from datetime import datetime
from pathlib import Path

from jade_perch.store.connection import SIDE, connect
from jade_perch.store.evening import settle_evenings
from jade_perch.store.journal import settle_observations
from jade_perch.store.migrations import migrate


def bring_forward(db: sqlite3.Connection, now_utc: datetime) -> None:
    """Run the steps that are missing, then give older records what only the core can find."""
    migrate(db)
    settle_evenings(db, now_utc)
    settle_observations(db)


def make_ready(path: Path, now_utc: datetime) -> None:
    """Open or create the database at ``path``, for its owner alone, and bring it forward."""
    with closing(connect(path)) as db:
        bring_forward(db, now_utc)
        for side in SIDE:
            with suppress(OSError):  # of another owner, or not there
                path.with_name(f"{path.name}{side}").chmod(0o600)
