"""A job's artwork as it stands after a step of a path, and maps of the difference of two steps."""

from __future__ import annotations

from typing import TypeAlias

import numpy as np

from plinto_core.arrays import Floats, Pixels
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.errors import BadInput
from plinto_core.gamut.on_screen import screen_values
from plinto_core.paths.figures import Formula, difference
from plinto_core.paths.follow import View
from plinto_core.recipes.route import LINKS
from plinto_core.transform.link import DeviceLink, build_link
from plinto_core.transform.standard_spaces import standard_profile
from plinto_server.apps.artwork import working_copy
from plinto_server.apps.jobs.links import MAP_SCALE
from plinto_server.apps.jobs.models import Job
from plinto_server.apps.jobs.rendering import distance_scale
from plinto_server.apps.paths.lists import space_of
from plinto_server.apps.paths.services import FoundPath, device_function
from plinto_server.png import encode

Part: TypeAlias = int | tuple[tuple[float, float, float, float], int, int]
"""What is shown of an artwork: all of it, by the pixels of its longer side; or a region (left, top, width,
height in its pixels) and the columns and rows it is shown in."""


def render_step(path: FoundPath, job: Job, step: int, view: View, part: Part) -> bytes:
    """The artwork after a step in sRGB, by a link of the path; raises BadInput where it does not begin
    with the artwork's space or the step has no colours."""
    pixels = _picture(path, job, part)
    lab_of = device_function(path, step, view)
    screen = standard_profile("srgb")

    def shown(device: Floats) -> Floats:
        return screen_values(screen, Lab_to_XYZ(lab_of(device)))

    link = LINKS.get(f"path:{path.key}:{step}:{view}", lambda: build_link(shown, pixels.shape[2]))
    return encode(_applied(link, pixels), screen)


def render_map(
    path: FoundPath, job: Job, pair: tuple[int, int], formula: Formula, view: View, part: Part
) -> bytes:
    """The size of the difference of two steps on the maps' scale, 0 to MAP_SCALE."""
    pixels = _picture(path, job, part)
    first, second = (device_function(path, step, view) for step in pair)

    def size(device: Floats) -> Floats:
        return np.abs(difference(formula, first(device), second(device)))[:, None] / MAP_SCALE

    link = LINKS.get(
        f"path-map:{path.key}:{pair}:{formula}:{view}", lambda: build_link(size, pixels.shape[2])
    )
    return encode(distance_scale()[_applied(link, pixels)[..., 0]])


def _picture(path: FoundPath, job: Job, part: Part) -> Pixels:
    if path.steps[0].space_in != space_of(job):
        raise BadInput(
            f"The picture is {space_of(job).strip()}, and the path begins with "
            f"{path.steps[0].space_in.strip()}.",
            remedy=f"Begin it with the picture’s own {space_of(job).strip()} profile.",
        )
    key = job.artwork.picture_key
    return (
        working_copy.reduced(key, part)
        if isinstance(part, int)
        else working_copy.region(key, *part)
    )


def _applied(link: DeviceLink, pixels: Pixels) -> Pixels:
    rows, columns, channels = pixels.shape
    return link.apply(pixels.reshape(-1, channels), bits=8).reshape(rows, columns, -1)
