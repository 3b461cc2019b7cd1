"""The made-up demo scenario and its loader."""
