"""Output policies as data, and what their rules make of a colour."""
