"""Lists of colours: read, written, made, and taken from pictures."""
