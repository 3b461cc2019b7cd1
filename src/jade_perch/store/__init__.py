"""Records in SQLite through plain SQL."""
