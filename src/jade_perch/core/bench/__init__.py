"""The set-up bench: from a tripod on the grass to a telescope that points where it should."""
