"""PDF/X (ISO 15930): documents checked against its parts, and results made to keep them."""
