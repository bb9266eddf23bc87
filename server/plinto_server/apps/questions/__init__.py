"""Questions answered in one go."""
