"""Read and write pictures in bands: TIFF, PNG, JPEG; previews."""

from plinto_core.imaging.facts import PictureFacts
from plinto_core.imaging.reader import open_picture
from plinto_core.imaging.writer import OutputOptions, write_picture

__all__ = ["OutputOptions", "PictureFacts", "open_picture", "write_picture"]
