"""The invisible made visible: warmth as a wash with isotherms, the UV index as contours, moisture as stipple."""

import base64
import struct
import zlib
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Final

import contourpy
import numpy as np
from numpy.typing import NDArray

from husbandry.climate.air import relative_humidity
from husbandry.light import ultraviolet
from ridgeback.units import KeeperUnits

Floats = NDArray[np.float64]

COLUMNS, ROWS = 61, 29  # four and five steps to one of what the pointer reads
DOTS: Final = 900
COLD: Final = (120, 160, 190)
WARM: Final = (196, 84, 46)
UV_LEVELS: Final = (0.2, 0.5, 0.7, 1.0, 1.5, 2.0, 3.0, 4.0, 5.0, 7.0, 9.0)
MOST_UV_LINES: Final = 5
NEAREST_LINE_M: Final = 0.08
KEPT: Final = 64  # UV fields and their lines, of the lamps that were looked at last


@dataclass(frozen=True)
class Contour:
    """A contour: its path in pixels, its value as text, and where the label stands."""

    path: str
    text: str
    x: float
    y: float


@dataclass(frozen=True)
class Frame:
    """Where the inside of the enclosure lies in pixels, and its size in m."""

    left: float
    floor: float
    scale: float
    length_m: float
    height_m: float
    ground_m: float

    def x(self, x_m: float | Floats) -> float | Floats:
        return self.left + x_m * self.scale

    def y(self, height_m: float | Floats) -> float | Floats:
        return self.floor - height_m * self.scale

    @property
    def grid(self) -> tuple[Floats, Floats]:
        """Places above the ground, m: x (COLUMNS,), height (ROWS,) from the ground's surface to the lid."""
        return np.linspace(0, self.length_m, COLUMNS), np.linspace(self.ground_m, self.height_m, ROWS)


def air_field(frame: Frame, zones: Floats) -> Floats:
    """Return the air temperature at the frame's grid, (ROWS, COLUMNS), straight between the middles of `zones` (levels, 5)."""
    levels, columns = zones.shape
    x, height = frame.grid
    centres = (np.arange(columns) + 0.5) * frame.length_m / columns
    along = np.stack([np.interp(x, centres, row) for row in zones])
    if levels == 1:
        return np.repeat(along, ROWS, axis=0)
    middles = (np.arange(levels) + 0.5) * frame.height_m / levels
    return np.stack([np.interp(height, middles, along[:, column]) for column in range(COLUMNS)], axis=1)


def wash(field: Floats, coldest: float, hottest: float) -> str:
    """Return a PNG of the field as a data address, cold to warm, see-through in the middle."""
    share = np.clip((field - coldest) / max(hottest - coldest, 1.0), 0, 1)[::-1]
    middle = 0.35
    warm = np.clip((share - middle) / (1 - middle), 0, 1)
    cold = np.clip((middle - share) / middle, 0, 1)
    pixels = np.zeros((*share.shape, 4), np.uint8)
    for channel in range(3):
        pixels[..., channel] = np.where(warm > 0, WARM[channel], COLD[channel])
    pixels[..., 3] = (175 * warm + 90 * cold).astype(np.uint8)
    return "data:image/png;base64," + base64.b64encode(_png(pixels)).decode()


def _png(pixels: NDArray[np.uint8]) -> bytes:
    rows, columns, _ = pixels.shape
    raw = b"".join(b"\0" + row.tobytes() for row in pixels)

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    header = struct.pack(">IIBBBBB", columns, rows, 8, 6, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", zlib.compress(raw, 6)) + chunk(b"IEND", b"")


def isotherms(frame: Frame, field: Floats, to_shown: tuple[float, float], step: float) -> list[Contour]:
    """Return lines of equal air temperature every `step` of the shown unit (`shown = factor · °C + offset`)."""
    factor, offset = to_shown
    shown = field * factor + offset
    first, last = np.ceil(shown.min() / step) * step, shown.max()
    levels = np.arange(first, last, step)
    return _lines(frame, shown, [float(level) for level in levels], "{:.0f}°", label_near=None)


@lru_cache(maxsize=KEPT)
def uv_field(frame: Frame, lamps: tuple[ultraviolet.Lamp, ...], shades: tuple[ultraviolet.Shade, ...]) -> Floats:
    """Return the UV index on a level surface at the frame's grid, (ROWS, COLUMNS); a dragged heater changes none of it."""
    x, height = frame.grid
    field = np.asarray(ultraviolet.index_at(lamps, x[None, :], height[:, None], shades))
    field.setflags(write=False)
    return field


@lru_cache(maxsize=KEPT)
def uv_lines(frame: Frame, lamps: tuple[ultraviolet.Lamp, ...], shades: tuple[ultraviolet.Shade, ...]) -> tuple[Contour, ...]:
    """Return lines of equal UV index on a level surface."""
    if not lamps:
        return ()
    field = uv_field(frame, lamps, shades)
    # Close to the tube the lines crowd and say nothing about where an animal can be.
    strongest = max(float(lamp.index_at(lamp.x_m, lamp.height_m - NEAREST_LINE_M)) for lamp in lamps)
    levels = [level for level in UV_LEVELS if field.min() < level < strongest]
    return tuple(_lines(frame, field, levels[-MOST_UV_LINES:], "{:g}", label_near=lamps[0].x_m + 0.3 * lamps[0].tube_m))


def _lines(frame: Frame, field: Floats, levels: list[float], form: str, label_near: float | None) -> list[Contour]:
    x, height = frame.grid
    generator = contourpy.contour_generator(x, height, field)
    found: list[Contour] = []
    for level in levels:
        lines: Any = generator.lines(level)  # arrays (n, 2), as the default line type has them
        pieces: list[Floats] = [piece for piece in lines if len(piece) > 3]
        if not pieces:
            continue
        path = ""
        for piece in pieces:
            points = [(frame.x(px), frame.y(py)) for px, py in piece[:: 2 if len(piece) > 24 else 1]]
            points.append((frame.x(piece[-1][0]), frame.y(piece[-1][1])))
            path += "M" + "L".join(f"{px:.0f},{py:.0f}" for px, py in points)
        longest = max(pieces, key=len)
        if label_near is None:
            px, py = longest[int(0.8 * (len(longest) - 1))]
        else:
            # Of the points near that place along the length, the lowest: below the lamp, where the animal is.
            px, py = longest[int((longest[:, 1] + 2 * np.abs(longest[:, 0] - label_near)).argmin())]
        found.append(Contour(path, form.format(level), float(frame.x(px)), float(frame.y(py))))
    return _apart(found)


def _apart(lines: list[Contour]) -> list[Contour]:
    """Blank the labels that would stand on another."""
    kept: list[Contour] = []
    for line in lines:
        crowded = any(other.text and abs(other.x - line.x) < 22 and abs(other.y - line.y) < 13 for other in kept)
        kept.append(Contour(line.path, "" if crowded else line.text, line.x, line.y))
    return kept


def samples(air: Floats, vapour_pa: float, ground: Floats, index: Floats, units: KeeperUnits) -> dict[str, Any]:
    """What the pointer reads, in the keeper's unit: coarse grids from the ground up, and the ground's layers from the top.

    `air` (rows, columns) in °C, `index` alike; `ground` (layers, zones) in °C holds the middles of the zones, which are as far
    from the walls as half of one: the ends are taken as level.
    """
    thin = (slice(None, None, 4), slice(None, None, 5))
    fahrenheit = units.temperature == "degF"
    factor, offset, digits = (1.8, 32.0, 0) if fahrenheit else (1.0, 0.0, 1)
    middles = (np.arange(ground.shape[1]) + 0.5) / ground.shape[1]
    along = np.linspace(0.0, 1.0, 2 * ground.shape[1] + 1)
    layers = np.array([np.interp(along, middles, layer) for layer in ground])
    return {
        "air": np.round(air[thin] * factor + offset, digits + 1).tolist(),
        "humid": np.rint(np.minimum(relative_humidity(vapour_pa, air[thin]), 100.0)).astype(int).tolist(),
        "uv": np.round(index[thin], 2).tolist(),
        "ground": np.round(layers * factor + offset, digits + 1).tolist(),
        "shown": {"digits": digits, "symbol": "°F" if fahrenheit else "°C"},
    }


def stipple(frame: Frame, air: Floats, vapour_pa: float) -> str:
    """Return dots as one path of points in pixels, the denser the higher the relative humidity."""
    field = np.minimum(relative_humidity(vapour_pa, air), 100.0)
    x, height = frame.grid
    # A fixed low-discrepancy sequence: the same place always has the same dots.
    index = np.arange(DOTS)
    u, v, chance = (0.5 + index * 0.7548776662) % 1, (0.5 + index * 0.5698402910) % 1, (index * 0.6180339887) % 1
    shown = chance < (field[(v * ROWS).astype(int), (u * COLUMNS).astype(int)] / 100) ** 1.5
    across = np.rint(frame.x(u[shown] * x[-1])).astype(int).tolist()
    up = np.rint(frame.y(height[0] + v[shown] * (height[-1] - height[0]))).astype(int).tolist()
    return "".join(f"M{px} {py}h0" for px, py in zip(across, up, strict=True))
