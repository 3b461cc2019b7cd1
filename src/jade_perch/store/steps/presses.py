"""A press keeps its own moment beside the one it was told at."""

STATEMENTS = ("ALTER TABLE press ADD COLUMN made_at_utc TEXT",)
