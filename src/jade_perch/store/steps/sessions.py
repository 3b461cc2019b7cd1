"""Solar sessions know what was checked; readings know when they rest on something simulated."""

STATEMENTS = (
    "ALTER TABLE solar_session ADD COLUMN telescope_id INTEGER REFERENCES telescope (id)",
    "ALTER TABLE solar_session ADD COLUMN telescope_version INTEGER",
    "ALTER TABLE solar_session ADD COLUMN filter_id INTEGER REFERENCES light_filter (id)",
    "ALTER TABLE solar_session ADD COLUMN filter_version INTEGER",
    "ALTER TABLE solar_session ADD COLUMN real_opened_at_utc TEXT",
    "ALTER TABLE setup_reading ADD COLUMN simulated TEXT NOT NULL DEFAULT ''",
)
