"""Proof prints: made of jobs and pages, read, judged, kept as history."""
