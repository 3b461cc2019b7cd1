"""Jade Perch: an evening at the eyepiece, from daylight set-up to pack-up."""

__version__ = "0.1.0"
