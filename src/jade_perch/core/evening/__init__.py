"""Choices for one evening."""
