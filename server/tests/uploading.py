"""Send a file as a browser does."""

from __future__ import annotations

import io

from rest_framework.test import APIClient


def upload(client: APIClient, data: bytes, name: str = "night sky.tif"):
    file = io.BytesIO(data)
    file.name = name
    return client.post("/api/artwork", {"file": file}, format="multipart")


def upload_document(client: APIClient, data: bytes, name: str = "atlas.pdf"):
    file = io.BytesIO(data)
    file.name = name
    return client.post("/api/documents", {"file": file}, format="multipart")
