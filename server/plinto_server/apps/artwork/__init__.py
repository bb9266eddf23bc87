"""Artwork: imported pictures, their facts and working copies."""
