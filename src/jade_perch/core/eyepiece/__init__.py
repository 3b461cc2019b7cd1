"""At the eyepiece: one target, one step, and what goes with it."""
