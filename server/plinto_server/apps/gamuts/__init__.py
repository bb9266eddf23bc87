"""Gamuts of profiles, conditions and pictures beside each other."""
