"""The schema as an ordered list of steps; a step is never edited once it has shipped."""

import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from jade_perch.store.connection import atomic
from jade_perch.store.errors import DatabaseUnusable
from jade_perch.store.steps import (
    evenings,
    fields,
    first,
    journal,
    kinds,
    loops,
    names,
    places,
    plans,
    practice,
    presses,
    sessions,
    sittings,
    weather,
)


@dataclass(frozen=True)
class Step:
    """One step: its name and plain statements, run in one transaction with the record of it.

    ``rebuilds`` marks a step that drops a table others refer to and puts a new one in its place:
    references are looked at once, at its end, instead of statement by statement.
    """

    name: str
    statements: tuple[str, ...]
    rebuilds: bool = False


Steps = tuple[Step, ...]
MIGRATIONS: Steps = (
    *(Step(name, statements) for name, statements in first.STEPS),
    Step("006_kinds_and_versions", kinds.STATEMENTS, rebuilds=True),
    Step("007_evenings", evenings.STATEMENTS, rebuilds=True),
    Step("008_sessions_and_simulated", sessions.STATEMENTS),
    Step("009_unknown_fields", fields.STATEMENTS, rebuilds=True),
    Step("010_usual_finders_and_loops", loops.STATEMENTS, rebuilds=True),
    Step("011_places", places.STATEMENTS),
    Step("012_plans", plans.STATEMENTS),
    Step("013_weather", weather.STATEMENTS),
    Step("014_sittings", sittings.STATEMENTS),
    Step("015_journal", journal.STATEMENTS),
    Step("016_names", names.STATEMENTS),
    Step("017_presses", presses.STATEMENTS),
    Step("018_practice", practice.STATEMENTS),
)
LEDGER = """
CREATE TABLE IF NOT EXISTS migration (
  name TEXT PRIMARY KEY,
  applied_at_utc TEXT NOT NULL DEFAULT (strftime('%Y-%m-%dT%H:%M:%SZ', 'now'))
) STRICT
"""
APPLIED = "SELECT name FROM migration ORDER BY name"
IS_APPLIED = "SELECT 1 FROM migration WHERE name = :name"
RECORD = "INSERT INTO migration (name) VALUES (:name)"


def migrate(db: sqlite3.Connection, steps: Steps = MIGRATIONS) -> None:
    """Bring the schema forward; each step and the record that it ran share one transaction.

    Raises ``DatabaseUnusable`` when the file was written by a newer version, or is no database.
    """
    try:
        db.execute(LEDGER)
        done = {row["name"] for row in db.execute(APPLIED)}
    except sqlite3.DatabaseError as error:
        raise DatabaseUnusable(f"The file is not a database of Jade Perch: {error}.") from error
    unknown = done - {step.name for step in steps}
    if unknown:
        raise DatabaseUnusable(
            f"The database was written by a newer version (steps {sorted(unknown)}). "
            "Start that version, or choose another --data-dir."
        )
    for step in steps:
        if step.name not in done:
            with _references_looked_at_last(db, step):
                if db.execute(IS_APPLIED, {"name": step.name}).fetchone() is not None:
                    continue  # another start has just done it
                for statement in step.statements:
                    db.execute(statement)
                db.execute(RECORD, {"name": step.name})


@contextmanager
def _references_looked_at_last(db: sqlite3.Connection, step: Step) -> Iterator[None]:
    """Run a step as one transaction; a rebuilding one with foreign keys off until its end.

    Raises ``DatabaseUnusable``, with nothing changed, when references would be left hanging.
    """
    if not step.rebuilds:
        with atomic(db):
            yield
        return
    db.execute("PRAGMA foreign_keys = OFF")  # of no effect inside a transaction, hence before it
    try:
        with atomic(db):
            yield
            hanging = db.execute("PRAGMA foreign_key_check").fetchall()
            if hanging:
                where = ", ".join(sorted({f"{row['table']} → {row['parent']}" for row in hanging}))
                raise DatabaseUnusable(f"Step {step.name} would leave references hanging: {where}.")
    finally:
        db.execute("PRAGMA foreign_keys = ON")
