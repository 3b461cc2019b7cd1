"""Practice: what may be wrong with an instrument, so that hands learn to notice."""
