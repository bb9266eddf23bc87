"""Output policies, the documents they run on, and their runs."""
