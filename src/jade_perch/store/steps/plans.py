"""What an evening's plan is made of: its wishes, and from when on it runs."""

PLAN_ITEM = """
CREATE TABLE plan_item (
  id INTEGER PRIMARY KEY,
  evening_id INTEGER NOT NULL REFERENCES evening (id),
  target_key TEXT NOT NULL CHECK (length(target_key) BETWEEN 1 AND 80),
  minutes INTEGER,
  pinned_utc TEXT,
  is_skipped INTEGER NOT NULL DEFAULT 0,
  version INTEGER NOT NULL DEFAULT 1,
  deleted_at_utc TEXT
) STRICT
"""
ONCE = """
CREATE UNIQUE INDEX plan_item_once ON plan_item (evening_id, target_key)
 WHERE deleted_at_utc IS NULL
"""
STATEMENTS = (PLAN_ITEM, ONCE, "ALTER TABLE evening ADD COLUMN planned_from_utc TEXT")
