"""Printing conditions: printer, medium, inks, profile and ink rules."""
