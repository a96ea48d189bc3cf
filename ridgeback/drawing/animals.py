"""Side views of the animals, drawn once in a unit of total length, nose to the right, feet at zero, up positive.

Our own outlines. Each is a list of path commands on (x, y) pairs; `place` scales and sets them on the spot.
"""

from typing import Final

Commands = tuple[tuple[str, tuple[float, ...]], ...]

# x from 0 (tail tip) to 1 (nose).
GECKO: Final[Commands] = (
    ("M", (0.0, 0.015)),
    ("C", (0.10, 0.012, 0.20, 0.085, 0.31, 0.085)),
    ("C", (0.40, 0.085, 0.44, 0.10, 0.54, 0.112)),
    ("C", (0.64, 0.124, 0.72, 0.115, 0.78, 0.105)),
    ("C", (0.82, 0.125, 0.90, 0.135, 0.945, 0.115)),
    ("C", (0.985, 0.098, 1.0, 0.075, 0.985, 0.062)),
    ("C", (0.95, 0.045, 0.88, 0.045, 0.82, 0.052)),
    ("L", (0.80, 0.0, 0.835, 0.0, 0.835, -0.008, 0.765, -0.008, 0.755, 0.042)),
    ("C", (0.68, 0.024, 0.58, 0.022, 0.50, 0.030)),
    ("L", (0.47, 0.0, 0.505, 0.0, 0.505, -0.008, 0.425, -0.008, 0.415, 0.030)),
    ("C", (0.34, 0.010, 0.15, 0.004, 0.0, 0.015)),
    ("Z", ()),
)
LIZARD: Final[Commands] = (
    ("M", (0.0, 0.008)),
    ("C", (0.18, 0.012, 0.34, 0.045, 0.47, 0.075)),
    ("C", (0.56, 0.115, 0.66, 0.132, 0.75, 0.122)),
    ("C", (0.80, 0.115, 0.83, 0.135, 0.87, 0.150)),
    ("C", (0.92, 0.155, 0.97, 0.140, 0.995, 0.112)),
    ("C", (1.0, 0.10, 0.98, 0.092, 0.94, 0.090)),
    ("C", (0.90, 0.075, 0.86, 0.07, 0.83, 0.065)),
    ("L", (0.845, 0.0, 0.88, 0.0, 0.88, -0.008, 0.80, -0.008, 0.775, 0.055)),
    ("C", (0.70, 0.020, 0.60, 0.018, 0.56, 0.030)),
    ("L", (0.575, 0.0, 0.605, 0.0, 0.605, -0.008, 0.52, -0.008, 0.50, 0.035)),
    ("C", (0.36, 0.012, 0.18, 0.0, 0.0, 0.008)),
    ("Z", ()),
)
TORTOISE: Final[Commands] = (
    ("M", (0.04, 0.13)),
    ("C", (0.05, 0.36, 0.24, 0.52, 0.46, 0.52)),
    ("C", (0.68, 0.52, 0.85, 0.36, 0.88, 0.17)),
    ("L", (0.92, 0.20)),
    ("C", (0.96, 0.29, 1.06, 0.30, 1.09, 0.235)),
    ("C", (1.11, 0.19, 1.05, 0.155, 0.98, 0.15)),
    ("L", (0.885, 0.115)),
    ("L", (0.87, 0.0, 0.74, 0.0, 0.72, 0.09)),
    ("L", (0.30, 0.09)),
    ("L", (0.28, 0.0, 0.14, 0.0, 0.13, 0.10)),
    ("L", (0.0, 0.085)),
    ("Z", ()),
)
FROG: Final[Commands] = (
    ("M", (0.02, 0.05)),
    ("C", (0.05, 0.24, 0.22, 0.34, 0.42, 0.42)),
    ("C", (0.55, 0.47, 0.62, 0.50, 0.68, 0.54)),
    ("C", (0.74, 0.60, 0.84, 0.58, 0.86, 0.50)),
    ("C", (0.95, 0.47, 1.0, 0.40, 0.97, 0.35)),
    ("C", (0.88, 0.30, 0.80, 0.28, 0.76, 0.22)),
    ("L", (0.80, 0.02, 0.90, 0.02, 0.90, 0.0, 0.68, 0.0, 0.62, 0.16)),
    ("L", (0.52, 0.02, 0.60, 0.02, 0.60, 0.0, 0.20, 0.0)),
    ("C", (0.12, 0.0, 0.05, 0.0, 0.02, 0.05)),
    ("Z", ()),
)
# A water turtle's shell is flatter and its legs are paddles.
FLATTER: Final = 0.68
TURTLE: Final[Commands] = tuple(
    (letter, tuple(number * (FLATTER if index % 2 else 1.0) for index, number in enumerate(numbers)))
    for letter, numbers in TORTOISE
)
SALAMANDER: Final[Commands] = (
    ("M", (0.0, 0.02)),
    ("C", (0.12, 0.06, 0.24, 0.075, 0.40, 0.078)),
    ("C", (0.52, 0.092, 0.64, 0.095, 0.76, 0.085)),
    ("C", (0.82, 0.105, 0.92, 0.115, 0.965, 0.092)),
    ("C", (1.0, 0.075, 1.0, 0.05, 0.975, 0.042)),
    ("C", (0.92, 0.03, 0.85, 0.03, 0.80, 0.03)),
    ("L", (0.81, 0.0, 0.845, 0.0, 0.845, -0.006, 0.765, -0.006, 0.745, 0.028)),
    ("C", (0.66, 0.012, 0.56, 0.012, 0.48, 0.02)),
    ("L", (0.475, 0.0, 0.505, 0.0, 0.505, -0.006, 0.425, -0.006, 0.41, 0.024)),
    ("C", (0.28, 0.016, 0.12, 0.004, 0.0, 0.02)),
    ("Z", ()),
)
# A resting snake: three stacked coils and a raised head; the unit is the coil's width.
SNAKE: Final[Commands] = (
    ("M", (0.06, 0.0)),
    ("C", (-0.02, 0.02, -0.02, 0.12, 0.06, 0.14)),
    ("C", (0.02, 0.22, 0.10, 0.28, 0.20, 0.27)),
    ("C", (0.24, 0.36, 0.42, 0.38, 0.56, 0.35)),
    ("C", (0.68, 0.42, 0.82, 0.44, 0.93, 0.42)),
    ("C", (1.0, 0.42, 1.02, 0.36, 0.96, 0.34)),
    ("C", (0.88, 0.31, 0.80, 0.31, 0.76, 0.27)),
    ("C", (0.90, 0.28, 0.94, 0.20, 0.90, 0.14)),
    ("C", (1.0, 0.12, 1.0, 0.02, 0.92, 0.0)),
    ("Z", ()),
)
EYES: Final = {
    "gecko": (0.925, 0.098),
    "lizard": (0.945, 0.122),
    "tortoise": (1.03, 0.235),
    "turtle": (1.03, 0.16),
    "salamander": (0.93, 0.085),
    "frog": (0.79, 0.53),
    "snake": (0.92, 0.39),
}
OUTLINES: Final = {
    "gecko": GECKO,
    "lizard": LIZARD,
    "tortoise": TORTOISE,
    "turtle": TURTLE,
    "frog": FROG,
    "salamander": SALAMANDER,
    "snake": SNAKE,
}
# Lines on the outline: coils and shell seams, as pairs of commands in the same unit.
MARKS: Final[dict[str, Commands]] = {
    "snake": (
        ("M", (0.06, 0.14)),
        ("C", (0.3, 0.17, 0.7, 0.17, 0.90, 0.14)),
        ("M", (0.20, 0.27)),
        ("C", (0.4, 0.30, 0.6, 0.30, 0.76, 0.27)),
    ),
    "tortoise": (
        ("M", (0.05, 0.17)),
        ("C", (0.3, 0.13, 0.65, 0.13, 0.87, 0.19)),
        ("M", (0.27, 0.15)),
        ("L", (0.33, 0.36, 0.58, 0.36, 0.64, 0.155)),
        ("M", (0.33, 0.36)),
        ("L", (0.28, 0.47)),
        ("M", (0.58, 0.36)),
        ("L", (0.65, 0.47)),
    ),
    "turtle": (("M", (0.05, 0.115)), ("C", (0.3, 0.09, 0.65, 0.09, 0.87, 0.13))),
    "salamander": (("M", (0.55, 0.09)), ("L", (0.555, 0.03)), ("M", (0.62, 0.094)), ("L", (0.625, 0.03))),
    "gecko": (
        ("M", (0.31, 0.085)),
        ("L", (0.33, 0.02)),
        ("M", (0.42, 0.096)),
        ("L", (0.44, 0.03)),
        ("M", (0.66, 0.118)),
        ("L", (0.67, 0.03)),
    ),
    "lizard": (),
    "frog": (),
}
COIL_SHARE: Final = 0.2  # width of a resting snake's coil over its length


def place(form: str, total_m: float, x: float, y: float, scale: float, *, turned: bool) -> tuple[str, str, tuple[float, float]]:
    """Return outline path, marks path and eye for an animal of `total_m` with its middle at pixel x and feet at pixel y."""
    unit = total_m * scale * (COIL_SHARE if form == "snake" else 1.0)
    sign = -1.0 if turned else 1.0

    def point(u: float, v: float) -> tuple[float, float]:
        return x + sign * (u - 0.5) * unit, y - v * unit

    def path(commands: Commands) -> str:
        parts = []
        for letter, numbers in commands:
            pairs = [point(numbers[i], numbers[i + 1]) for i in range(0, len(numbers), 2)]
            parts.append(letter + " ".join(f"{px:.1f},{py:.1f}" for px, py in pairs))
        return "".join(parts)

    return path(OUTLINES[form]), path(MARKS[form]), point(*EYES[form])
