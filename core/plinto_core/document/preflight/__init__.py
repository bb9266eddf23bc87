"""Preflight: the checks a policy makes of a document, and their findings as notes on its pages."""
