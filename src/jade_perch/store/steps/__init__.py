"""The schema's steps, in the order they shipped; none is edited once it has."""
