"""Simulated stand-ins for devices and services."""
