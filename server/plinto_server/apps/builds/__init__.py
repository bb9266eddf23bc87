"""Profiles built here from measurements."""
