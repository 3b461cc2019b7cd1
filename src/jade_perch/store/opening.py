"""A database made ready to be used: its schema brought forward, older records settled."""

import sqlite3
from datetime import datetime

from jade_perch.store.evening import settle_evenings
from jade_perch.store.journal import settle_observations
from jade_perch.store.migrations import migrate


def bring_forward(db: sqlite3.Connection, now_utc: datetime) -> None:
    """Run the steps that are missing, then give older records what only the core can find."""
    migrate(db)
    settle_evenings(db, now_utc)
    settle_observations(db)
