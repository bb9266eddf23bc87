"""Colour paths as tests write and follow them."""

from __future__ import annotations

import json


def path(*steps, **more) -> dict:
    made = []
    for step in steps:
        kind, _, ref = step.partition(":")
        made.append({"kind": kind, "ref": ref, **more})
    return {"steps": made}


def followed(client, steps: dict, **query):
    return client.get("/api/colour-paths/followed", {"path": json.dumps(steps), **query})
