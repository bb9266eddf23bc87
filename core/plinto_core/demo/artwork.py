"""Invented artwork of an invented observatory, drawn with seeded NumPy."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import imagecodecs
import numpy as np
import tifffile
from scipy.ndimage import gaussian_filter

from plinto_core.arrays import Floats
from plinto_core.imaging.writer import OutputOptions, write_picture
from plinto_core.transform.standard_spaces import standard_profile

_PPI = 150.0


@dataclass(frozen=True)
class DemoArtwork:
    """One artwork: where it goes and how it is drawn into a file."""

    name: str
    file_name: str
    destinations: tuple[str, ...]
    draw: Callable[[Path], None]


def _grid(width: int, height: int) -> tuple[Floats, Floats]:
    x = (np.arange(width) + 0.5) / width
    y = (np.arange(height) + 0.5) / height
    return np.broadcast_to(x[None, :], (height, width)), np.broadcast_to(
        y[:, None], (height, width)
    )


def _over(base: Floats, colour: tuple[float, ...], cover: Floats) -> Floats:
    return base * (1 - cover[..., None]) + np.asarray(colour) * cover[..., None]


def _disc(x: Floats, y: Floats, cx: float, cy: float, radius: float, soft: float) -> Floats:
    distance = np.hypot(x - cx, y - cy)
    return np.clip((radius - distance) / soft + 0.5, 0, 1)


def _save_tiff(path: Path, rgb: Floats, profile: str) -> None:
    pixels = np.round(np.clip(rgb, 0, 1) * 65535).astype(np.uint16)
    options = OutputOptions("TIFF", 16, standard_profile(profile).data, (_PPI, _PPI))
    write_picture(path, iter([pixels]), (*pixels.shape[:2], 3), options)


def aurora_curtain(path: Path) -> None:
    """Green and violet bands over a dark sea, 16 bit, ROMM RGB."""
    width, height = 2160, 1440
    x, y = _grid(width, height)
    rng = np.random.default_rng(41)
    sky = np.stack([0.035 + 0.03 * y, 0.05 + 0.06 * y, 0.14 + 0.16 * y], axis=-1)
    light = np.zeros((height, width))
    violet = np.zeros((height, width))
    for k in range(5):
        phase, speed = rng.uniform(0, 6.28), rng.uniform(2.2, 5.5)
        line = 0.52 - 0.07 * k + 0.07 * np.sin(speed * x + phase) + 0.03 * np.sin(3.1 * speed * x)
        fold = gaussian_filter(rng.random(width), rng.uniform(4, 18), mode="wrap")
        fold = (fold - fold.min()) / np.ptp(fold)
        above = np.clip(line - y, 0, None)
        edge = 1 / (1 + np.exp(np.clip(-(line - y) * 130, -60, 60)))
        light += (0.25 + 0.75 * fold) * edge * np.exp(-above / 0.17) * (1 - 0.12 * k)
        violet += (0.3 + 0.7 * fold) * edge * np.exp(-(((above - 0.2) / 0.15) ** 2)) * 0.75
    light, violet = 1 - np.exp(-1.1 * light), 1 - np.exp(-0.85 * violet)
    glow = np.stack(
        [0.1 * light + 0.55 * violet, 0.85 * light + 0.16 * violet, 0.42 * light + 0.75 * violet],
        -1,
    )
    rgb = 1 - (1 - sky) * (1 - np.clip(glow, 0, 0.97))
    stars = np.zeros((height, width))
    stars[rng.integers(0, int(height * 0.7), 420), rng.integers(0, width, 420)] = rng.random(420)
    rgb = rgb + gaussian_filter(stars, 1.1)[..., None] * np.array([3.6, 3.8, 4.0])
    horizon = 0.76 + 0.008 * np.sin(7 * x) + 0.004 * np.sin(23 * x)
    sea = np.clip((y - horizon) * height / 2, 0, 1)
    mirror = np.clip((2 * horizon - y) * height, 0, height - 1).astype(int)
    ripple = (10 * np.sin(y * 900) * (y - 0.74)).astype(int)
    columns = np.clip(np.arange(width)[None, :] + ripple, 0, width - 1)
    reflected = rgb[mirror, columns] * (0.5 - 0.5 * (y - 0.74))[..., None] + np.array(
        [0.02, 0.03, 0.06]
    )
    rgb = rgb * (1 - sea[..., None]) + reflected * sea[..., None]
    _save_tiff(path, rgb, "romm")


def moon_phases(path: Path) -> None:
    """Neutral greys from black to paper, 16 bit, opRGB."""
    width, height = 2000, 1250
    x, y = _grid(width, height)
    aspect = width / height
    grey = 0.06 + 0.10 * y
    rng = np.random.default_rng(7)
    texture = sum(
        gaussian_filter(rng.normal(0, 1, (height, width)), s, mode="wrap") * s for s in (3, 9, 26)
    )
    for k in range(7):
        cx = (k + 0.5) / 7
        radius = 0.058
        dx, dy = (x - cx), (y - 0.42) / aspect
        disc = np.clip((radius - np.hypot(dx, dy)) * width / 1.6 + 0.5, 0, 1)
        depth = np.sqrt(np.clip(radius**2 - dx**2 - dy**2, 0, None)) / radius
        angle = np.pi * (k - 3) / 3.6
        lit = np.clip(np.sin(angle) * dx / radius + np.cos(angle) * depth, 0, 1)
        surface = np.clip(0.03 + 0.97 * lit**0.65 * (0.86 + 0.05 * texture), 0, 1)
        grey = grey * (1 - disc) + surface * disc
    ramp = (y > 0.74) & (y < 0.83) & (x > 0.04) & (x < 0.96)
    steps = (y >= 0.83) & (y < 0.92) & (x > 0.04) & (x < 0.96)
    along = np.clip((x - 0.04) / 0.92, 0, 1)
    grey = np.where(ramp, along, grey)
    grey = np.where(steps, np.floor(along * 21).clip(0, 20) / 20, grey)
    _save_tiff(path, np.repeat(grey[..., None], 3, axis=-1), "oprgb")


def comet_bag(path: Path) -> None:
    """Flat spot colours and one soft tail, sRGB PNG with transparency and without a profile."""
    width, height = 1600, 1700
    x, y = _grid(width, height)
    aspect = height / width
    v = y * aspect
    rgb = np.ones((height, width, 3))
    alpha = np.zeros((height, width))

    def lay(colour: tuple[float, float, float], cover: Floats) -> None:
        nonlocal rgb, alpha
        rgb = _over(
            rgb,
            colour,
            np.where(alpha + cover > 0, cover / np.maximum(alpha + cover - alpha * cover, 1e-6), 0),
        )
        alpha = alpha + cover - alpha * cover

    soft = 2 / width
    lay((0.07, 0.11, 0.33), _disc(x, v, 0.5, 0.56, 0.44, soft))
    along = (x - 0.30) * 0.82 + (v - 0.74) * -0.57
    across = (x - 0.30) * 0.57 + (v - 0.74) * 0.82
    tail = np.exp(-((across / (0.025 + 0.20 * np.clip(along, 0, 1))) ** 2)) * np.clip(
        1 - along / 0.72, 0, 1
    )
    inside = _disc(x, v, 0.5, 0.56, 0.44, soft)
    rgb = _over(rgb, (0.35, 0.93, 0.86), tail * (along > 0) * inside * 0.95)
    lay((0.98, 0.79, 0.10), _disc(x, v, 0.30, 0.74, 0.085, soft))
    lay((0.93, 0.30, 0.15), _disc(x, v, 0.30, 0.74, 0.050, soft))
    rng = np.random.default_rng(3)
    for _ in range(26):
        angle, far = rng.uniform(0, 6.28), 0.42 * rng.random() ** 0.5
        size = rng.uniform(0.004, 0.011)
        lay(
            (0.97, 0.95, 0.88),
            _disc(x, v, 0.5 + far * np.cos(angle), 0.56 + far * np.sin(angle), size, soft),
        )
    ring = _disc(x, v, 0.5, 0.56, 0.475, soft) - _disc(x, v, 0.5, 0.56, 0.455, soft)
    lay((0.93, 0.30, 0.15), np.clip(ring, 0, 1))
    rgba = np.round(np.clip(np.dstack([rgb, alpha]), 0, 1) * 255).astype(np.uint8)
    path.write_bytes(bytes(imagecodecs.png_encode(rgba, level=6)))


def observers_card(path: Path) -> None:
    """Skin-like tones, foliage and wood as patches and soft shapes, 8 bit sRGB JPEG-like TIFF."""
    width, height = 1800, 1200
    x, y = _grid(width, height)
    v = y * height / width
    rgb = np.stack([0.80 - 0.2 * y, 0.83 - 0.18 * y, 0.84 - 0.12 * y], axis=-1)
    rgb = _over(rgb, (0.32, 0.41, 0.24), np.clip((v - 0.50 + 0.03 * np.sin(9 * x)) * 40, 0, 1))
    skins = ((0.94, 0.78, 0.68), (0.87, 0.66, 0.52), (0.70, 0.48, 0.35), (0.45, 0.29, 0.21))
    coats = ((0.18, 0.26, 0.42), (0.55, 0.19, 0.18), (0.72, 0.58, 0.30), (0.24, 0.38, 0.33))
    for k, (skin, coat) in enumerate(zip(skins, coats, strict=True)):
        cx = 0.15 + 0.233 * k
        body = np.clip((0.115 - np.hypot((x - cx), (v - 0.60) * 0.55)) * 90, 0, 1)
        shade = 0.75 + 0.35 * np.clip((cx + 0.1 - x) / 0.2, 0, 1)
        rgb = rgb * (1 - body[..., None]) + np.asarray(coat) * shade[..., None] * body[..., None]
        head = np.clip((0.072 - np.hypot((x - cx) * 1.12, v - 0.31)) * 110, 0, 1)
        light = 1.12 - 0.55 * np.clip(np.hypot(x - cx + 0.03, v - 0.28) / 0.13, 0, 1) ** 1.6
        face = np.clip(np.asarray(skin) * light[..., None], 0, 1)
        rgb = rgb * (1 - head[..., None]) + face * head[..., None]
    for k in range(12):
        colour = np.asarray(skins[k % 4]) * (0.55 + 0.15 * (k // 4)) * 1.15
        box = (np.abs(x - (0.06 + k * 0.08)) < 0.034) & (np.abs(y - 0.915) < 0.045)
        rgb = np.where(box[..., None], np.clip(colour, 0, 1), rgb)
    pixels = np.round(np.clip(gaussian_filter(rgb, (0.8, 0.8, 0)), 0, 1) * 255).astype(np.uint8)
    tifffile.imwrite(
        path, pixels, photometric="rgb", compression="zlib", predictor=True, metadata=None, software=False,
        iccprofile=standard_profile("srgb").data, resolution=(_PPI, _PPI), resolutionunit="INCH",
        rowsperstrip=64,
    )  # fmt: skip


ARTWORK: tuple[DemoArtwork, ...] = (
    DemoArtwork("Aurora curtain", "aurora-curtain.tif", ("sheetfed-coated", "polyester-satin", "newsprint", "polyester-seven"), aurora_curtain),
    DemoArtwork("Moon phases", "moon-phases.tif", ("sheetfed-coated", "newsprint", "photo-rgb"), moon_phases),
    DemoArtwork("Comet bag", "comet-bag.png", ("cotton-four-screen", "two-screens"), comet_bag),
    DemoArtwork("Observers’ card", "observers-card.tif", ("sheetfed-uncoated", "sheetfed-coated", "satin-canvas"), observers_card),
)  # fmt: skip
