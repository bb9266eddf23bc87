"""What a profile really does: read from its own tables, judged, and put into words."""
