"""The server."""
