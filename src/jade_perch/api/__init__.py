"""The HTTP layer: one router per station, no rules."""
