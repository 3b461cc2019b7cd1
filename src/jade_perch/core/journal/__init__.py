"""What was seen, list by list and evening by evening, and what it teaches."""
