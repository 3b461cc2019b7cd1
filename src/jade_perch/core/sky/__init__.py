"""Where things stand in the sky and when."""
