"""Files that come with a request: checked for size, received into the scratch folder."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from django.core.files.uploadedfile import UploadedFile
from rest_framework import serializers
from rest_framework.request import Request

from plinto_core.errors import BadInput
from plinto_server import store
from plinto_server.requests import body

LARGEST = 4 << 30


class Upload(serializers.Serializer):
    file = serializers.FileField()


def given_file(request: Request, *, largest: int = LARGEST) -> UploadedFile:
    """The file of a request; raises BadInput where it is too large."""
    file: UploadedFile = body(request, Upload)["file"]
    if file.size is not None and file.size > largest:
        size = f"{largest >> 30} GB" if largest >= 1 << 30 else f"{largest >> 20} MB"
        raise BadInput(f"The file is larger than {size}.")
    return file


@contextmanager
def uploaded(request: Request) -> Iterator[tuple[Path, str]]:
    """The file of a request in the scratch folder, and the name it came with."""
    file = given_file(request)
    with store.received(file) as path:
        yield path, file.name or "file"
