"""Colours followed along paths, and the lists of swatches they begin with."""
