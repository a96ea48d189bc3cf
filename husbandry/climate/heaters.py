"""Radiant heaters: what share of the watts is radiated, into what beam, and what may control them.

The beam is `I = I0 cos^m φ` with `m = ln 0.5 / ln cos θ½` and `I0 = Φ(m + 1)/2π` (W/sr). Near the lamp its face is a
disc, not a point: the irradiance is averaged over points of the face.
"""

import math
from dataclasses import dataclass
from functools import cache, lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
FloatsLike = NDArray[np.float64] | float


@dataclass(frozen=True)
class HeaterKind:
    """Priors of one kind (estimates): radiant share, half-angle of the beam, face diameter, light, controls that suit.

    `inside_share`: of what is not radiated, the share that stays in the enclosure when the heater stands on a mesh lid.
    `place`: "over" what it shines on, "under" the ground, in the "wall", in the "air", in the "water", or a
    "light" whose watts only warm. `heat_per_watt` is what an electrical
    watt brings, negative where it takes heat away (a chiller's coefficient of performance).
    """

    radiant_share: float
    half_angle_deg: float
    face_m: float
    light: bool
    controls: tuple[str, ...]
    inside_share: float = 0.6
    place: str = "over"
    heat_per_watt: float = 1.0

    @property
    def cools(self) -> bool:
        """Tell whether it takes heat away."""
        return self.heat_per_watt < 0


HEATERS: Final = {
    "reflector-flood": HeaterKind(0.45, 42.0, 0.095, True, ("dimming",)),
    "reflector-spot": HeaterKind(0.45, 20.0, 0.095, True, ("dimming",)),
    "halogen-flood": HeaterKind(0.50, 27.0, 0.095, True, ("dimming",)),
    "ceramic-emitter": HeaterKind(0.40, 60.0, 0.10, False, ("pulse", "on-off")),
    "infrared-projector": HeaterKind(0.55, 38.0, 0.10, False, ("dimming", "pulse")),
    "radiant-panel": HeaterKind(0.60, 60.0, 0.25, False, ("pulse", "on-off"), 0.5),
    "vapour-combined": HeaterKind(0.45, 35.0, 0.11, True, ("none",)),
    "halide-combined": HeaterKind(0.40, 35.0, 0.10, True, ("none",), 0.4),
    "mat": HeaterKind(0.0, 60.0, 0.25, False, ("pulse", "on-off"), 1.0, "under"),
    "cable": HeaterKind(0.0, 60.0, 0.25, False, ("pulse", "on-off"), 1.0, "under"),
    "wall-mat": HeaterKind(0.0, 60.0, 0.25, False, ("pulse", "on-off"), 1.0, "wall"),
    "tube-heater": HeaterKind(0.3, 60.0, 0.05, False, ("on-off", "pulse"), 1.0, "air"),
    "light": HeaterKind(0.4, 60.0, 0.05, True, ("none",), 1.0, "light"),
    "hide-heater": HeaterKind(0.0, 60.0, 0.05, False, ("pulse",), 1.0, "hide"),
    "water-heater": HeaterKind(0.0, 60.0, 0.03, False, ("on-off",), 1.0, "water"),
    "water-chiller": HeaterKind(0.0, 60.0, 0.03, False, ("on-off",), 1.0, "water", heat_per_watt=-2.0),
}
# What a lampholder of the usual kind carries, W (trade: plastic shells 60, ceramic ones 150; the mark on it decides).
HOLDERS: Final = {"plastic": 60.0, "ceramic": 150.0, "fixed": 500.0}
PATCH_REACH: Final = 3.0  # how far beside the outermost lamp a warm patch is looked for, in drops
PATCH_POINTS: Final = 801  # its ends are interpolated between them


def beam_exponent(half_angle_deg: float) -> float:
    """Return m of cos^m for a beam that falls to half at `half_angle_deg` from its axis.

    Parameters
    ----------
    half_angle_deg
        The angle from the axis at which the beam has half its strength, degrees, between 0 and 90.

    Returns
    -------
    m, without unit.

    References
    ----------
    cos^m = ½ at the half angle: the generalised Lambertian source (docs/models.md [7]; recalled).
    """
    return math.log(0.5) / math.log(math.cos(math.radians(half_angle_deg)))


@cache
def _face_points(face_m: float) -> Floats:
    """Return points and equal weights over a disc, shape (13, 2) in m: the centre and two rings of six."""
    radius = face_m / 2
    points = [(0.0, 0.0)]
    for ring, turn in ((0.545, 0.0), (0.887, math.pi / 6)):  # the mean square of their distances is the disc's
        points += [
            (ring * radius * math.cos(turn + k * math.pi / 3), ring * radius * math.sin(turn + k * math.pi / 3)) for k in range(6)
        ]
    return np.array(points)


def irradiance(
    radiant_watts: FloatsLike, half_angle_deg: float, face_m: float, offset_x: FloatsLike, offset_y: FloatsLike, drop: FloatsLike
) -> Floats:
    """Return the irradiance on a level surface below a lamp that looks straight down.

    Parameters
    ----------
    radiant_watts
        Watts radiated into the half-space below.
    half_angle_deg
        Angle from the axis at which the beam has half its strength.
    face_m
        Diameter of the lamp's face in m: near it, it is a disc.
    offset_x, offset_y
        From the axis, in m.
    drop
        Below the face, in m, above zero; all arrays broadcast.

    Returns
    -------
    W/m². Limits: no reflection from walls, an even face.

    References
    ----------
    Keitz 1971, Light Calculations and Measurements (docs/models.md [7]; recalled).
    """
    m = beam_exponent(half_angle_deg)
    points, d = _face_points(face_m), np.asarray(drop, float)[..., None]
    dx = np.asarray(offset_x, float)[..., None] - points[:, 0]
    dy = np.asarray(offset_y, float)[..., None] - points[:, 1]
    squared = dx * dx + dy * dy + d * d
    # I0 cos^m φ · cos γ / r² with cos φ = cos γ = d/r, on the mean of the face's points
    shape = np.add.reduce(d ** (m + 1) / squared ** ((m + 3) / 2), axis=-1) / len(points)
    return np.asarray(radiant_watts * (m + 1) / (2 * math.pi) * shape)


@dataclass(frozen=True)
class Beam:
    """A lamp over a surface: where its axis meets it along the length, its drop to it (m), what it radiates (W), its face.

    `aside_m` is how far its axis lies behind the line along the length that is looked at.
    """

    x_m: float
    drop_m: float
    radiant_watts: float
    half_angle_deg: float
    face_m: float
    aside_m: float = 0.0


@lru_cache(maxsize=256)
def patch_length(beams: tuple[Beam, ...], at_m: float, over_m: float = 0.0) -> float:
    """Return the length in m, along the enclosure, of the warm patch nearest to `at_m`: at least half the peak of all together.

    Two lamps whose fields run together warm one patch; where the warmth falls below half between them, there are two.

    Parameters
    ----------
    beams
        Lamps with what each radiates, where it hangs and how high.
    at_m
        The place along the enclosure, m.
    over_m
        The width over which it has to be so warm, half of it to either side, m.

    Returns
    -------
    m; 0 where nothing is so warm over that width.

    References
    ----------
    Full width at half maximum, as for any beam; common practice.
    """
    reach = max(PATCH_REACH * beam.drop_m + beam.face_m for beam in beams)
    x = np.linspace(min(beam.x_m for beam in beams) - reach, max(beam.x_m for beam in beams) + reach, PATCH_POINTS)
    # The peak may lie under any of the lamps; what counts is the coolest across the body.
    body = {0.0, -over_m / 2, over_m / 2}
    across = np.array([*sorted(body), *sorted({beam.aside_m for beam in beams} - body)])[:, None]
    whole = np.zeros((across.size, x.size))
    for beam in beams:
        whole += irradiance(beam.radiant_watts, beam.half_angle_deg, beam.face_m, x - beam.x_m, across - beam.aside_m, beam.drop_m)
    field, half = whole[: len(body)].min(axis=0), 0.5 * float(whole.max())
    warm = np.flatnonzero(field >= half)
    if not warm.size:
        return 0.0
    patches = np.split(warm, np.flatnonzero(np.diff(warm) > 1) + 1)
    patch = min(patches, key=lambda places: float(np.abs(x[places] - at_m).min()))

    def edge(inner: int, outer: int) -> float:
        if not 0 <= outer < x.size:
            return float(x[inner])
        share = (field[inner] - half) / (field[inner] - field[outer])
        return float(x[inner] + share * (x[outer] - x[inner]))

    return edge(patch[-1], patch[-1] + 1) - edge(patch[0], patch[0] - 1)


def patch_diameter(half_angle_deg: float, face_m: float, drop_m: float) -> float:
    """Return the diameter in m within which the irradiance is at least half its peak.

    Parameters
    ----------
    half_angle_deg
        The angle from the axis at which the beam has half its strength, degrees.
    face_m
        The lamp's diameter, m.
    drop_m
        From its face to the surface, m.

    Returns
    -------
    m.

    References
    ----------
    Full width at half maximum, as for any beam; common practice.
    """
    radii = np.linspace(0.0, 3.0 * drop_m + face_m, 400)
    profile = irradiance(1.0, half_angle_deg, face_m, radii, 0.0, drop_m)
    below = np.flatnonzero(profile < 0.5 * profile[0])
    if below.size == 0:
        return float(2 * radii[-1])
    k = int(below[0])
    share = (profile[k - 1] - 0.5 * profile[0]) / (profile[k - 1] - profile[k])
    return float(2 * (radii[k - 1] + share * (radii[k] - radii[k - 1])))
