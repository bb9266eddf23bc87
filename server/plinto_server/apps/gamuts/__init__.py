"""Gamuts of profiles, conditions, pictures and lists beside each other."""
