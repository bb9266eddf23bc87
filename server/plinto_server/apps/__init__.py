"""The domains of the server."""
