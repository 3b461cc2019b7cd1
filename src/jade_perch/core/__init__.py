"""The job itself: pure functions on frozen models; no web, no database, no clock."""
