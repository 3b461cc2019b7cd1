"""Names are kept apart as people read them: one folded form a name, unique among the living.

``folded`` is the rule of the core, made known to the connection.
"""

NAMED = (
    "telescope",
    "mount",
    "diagonal",
    "finder",
    "eyepiece",
    "amplifier",
    "light_filter",
    "observer",
    "site",
    "target_list",
)


def _folded(table: str) -> tuple[str, ...]:
    """Return the statements for one table; of two living namesakes the later gets its number."""
    fold = f"UPDATE {table} SET name_folded = folded(name)"
    return (
        f"ALTER TABLE {table} ADD COLUMN name_folded TEXT NOT NULL DEFAULT ''",
        fold,
        f"UPDATE {table} SET name = substr(name, 1, 60) || ' (no. ' || id || ')' "
        f"WHERE deleted_at_utc IS NULL AND EXISTS (SELECT 1 FROM {table} AS other "
        f"WHERE other.deleted_at_utc IS NULL AND other.id < {table}.id "
        f"AND other.name_folded = {table}.name_folded)",
        fold,
        f"DROP INDEX {table}_name",
        f"CREATE UNIQUE INDEX {table}_name ON {table} (name_folded) WHERE deleted_at_utc IS NULL",
    )


STATEMENTS = (
    *(statement for table in NAMED for statement in _folded(table)),
    # a day that nobody can have meant is unsaid again, so that it is asked for
    "UPDATE upkeep SET last_done = NULL WHERE last_done NOT BETWEEN '1900-01-01' AND '2099-12-31'",
    "UPDATE plan_item SET pinned_utc = NULL "
    "WHERE pinned_utc NOT BETWEEN '1900-01-01' AND '2099-12-31T23:59:59Z'",
    "UPDATE plan_item SET not_before_utc = NULL "
    "WHERE not_before_utc NOT BETWEEN '1900-01-01' AND '2099-12-31T23:59:59Z'",
)
