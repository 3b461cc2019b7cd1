"""What is outside: the clock, and instruments that send readings, real ones or stand-ins."""
