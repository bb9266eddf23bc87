"""A policy on a whole document or picture, dry or real; checks and comparisons."""
