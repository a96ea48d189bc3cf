"""Write, run and read the resolved flow of an enclosure with OpenFOAM from Debian's packages; by hand, some half an hour a case.

    apt-get install --no-install-recommends openfoam
    PYTHONPATH=. .venv-test/bin/python tests/reference/openfoam.py write|run|read vented-box /tmp/of

`read` puts the zones' means into tests/reference/resolved.json. Half of the enclosure is computed, to the plane through its middle. Walls and
ground are conductances to the room; each surface also gives long-wave radiation to what it sees, by view factors, anew after every stage; the lamp's radiant heat is a
flux on floor and walls, its convective heat a source of the air under it; a mesh is a layer with Brundrett's resistance; vapour is a scalar that
is carried and does not move the air. The room above a mesh is part of what is computed; a dome
stops the mesh where it stands. The cells grow from a few millimetres at floor, walls and lid, so that no law of the wall is needed; what is smaller than
a cell is left to an eddy viscosity (WALE). `read` also tells how well the heat that goes in comes out again.
"""

import json
import math
import os
import re
import shutil
import subprocess
import sys
from dataclasses import dataclass
from itertools import product
from pathlib import Path
from typing import Any, Final

import numpy as np

from husbandry.climate import ground, heaters, walls
from husbandry.climate.basking import ABSORPTANCE
from husbandry.climate.case import EnclosureCase
from husbandry.climate.heat_gains import MESH_KEEPS, passed_share, wall_share
from husbandry.climate.openings import AIR_VISCOSITY, DISCHARGE, WIRE_M
from tests.reference.enclosures import RESOLVED, ROOM_C, Resolved

KELVIN: Final = 273.15
ROOM_K: Final = ROOM_C + KELVIN
DENSITY, PRANDTL = 1.19, 0.71
CONDUCTIVITY: Final = DENSITY * 1006 * AIR_VISCOSITY / PRANDTL
ABOVE_M: Final = 0.6  # of the room over a mesh
CONVECTIVE: Final = 4.0  # W/m²K, by which surfaces are brought to where they come to be
RADIATIVE: Final = 0.95 * 4 * 5.67e-8 * 300.0**3  # W/m²K near 27 °C
STRIPS: Final = (9, 3)  # of the floor, along and across its half
STAGES: Final = (50, 90, 130, 170, 210, 290)  # s; the mean is of the last
CONVECTED: Final = 0.18  # of a glow lamp's watts
DIFFUSE_DEG: Final = 60.0  # half-angle of the cosine law
WALL_CELL_M: Final = 0.005
MESH_M: Final = 0.01  # the layer that stands for a mesh
EVENLY_W_M2: Final = 150.0
DOME_M: Final = 0.16
WARMED_M: Final = 0.03  # below a dome, of air that its lamp's heat goes into
HEAD: Final = "FoamFile {{ version 2.0; format ascii; class {kind}; object {name}; }}\n"
HERE: Final = Path(__file__).parent


def _file(folder: Path, place: str, body: str, kind: str = "dictionary") -> None:
    path = folder / place
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text(HEAD.format(kind=kind, name=path.name) + body)


@dataclass(frozen=True)
class Section:
    """A stretch of a grid line: its length in m, its cells, and the last cell over the first."""

    length_m: float
    cells: int
    growth: float = 1.0


def _towards_wall(length_m: float, cell_m: float, *, first: bool) -> Section:
    """Cells that grow from WALL_CELL_M to `cell_m`, away from the wall that stands first, or last."""
    growth = cell_m / WALL_CELL_M
    ratio = (length_m - WALL_CELL_M) / (length_m - cell_m)
    cells = round(math.log(growth) / math.log(ratio)) + 1
    return Section(length_m, cells, growth if first else 1 / growth)


def _across(length_m: float, cell_m: float, *, first: bool = True, last: bool = True) -> list[Section]:
    """A line from wall to wall; `first` and `last` say where there is one."""
    edge = 0.1
    middle = length_m - edge * (first + last)
    sections = [Section(middle, max(round(middle / cell_m), 2))]
    if first:
        sections.insert(0, _towards_wall(edge, cell_m, first=True))
    if last:
        sections.append(_towards_wall(edge, cell_m, first=False))
    return sections


def _grid(one: Resolved) -> list[list[Section]]:
    """The sections along, across (the plane through the middle first) and up."""
    case, cell = one.case, one.cell_m
    up = _across(case.height_m, cell)
    if case.lid != "solid":
        up = [*_across(case.height_m, cell, last=False)[:-1], Section(0.0, 0)]
        middle = case.height_m - up[0].length_m - DOME_M / 2
        up = [up[0], Section(middle, max(round(middle / cell), 2)), Section(DOME_M / 2, 8), Section(MESH_M, 1)]
        up += [Section(DOME_M / 2, 6), Section(ABOVE_M - MESH_M - DOME_M / 2, 14, 2.0)]
    return [_across(case.length_m, cell), _across(case.width_m / 2, cell, first=False), up]


def _lines(sections: list[Section]) -> "np.ndarray[Any, Any]":
    """Where the cells' faces lie, in m."""
    sizes = []
    for part in sections:
        ratio = part.growth ** (1 / (part.cells - 1)) if part.cells > 1 else 1.0
        each = ratio ** np.arange(part.cells)
        sizes.append(part.length_m * each / each.sum())
    return np.concatenate([[0.0], np.cumsum(np.concatenate(sizes))])


def _graded(sections: list[Section]) -> str:
    return "(" + " ".join(f"({part.length_m} {part.cells} {part.growth})" for part in sections) + ")"


def _strips(case: EnclosureCase) -> list[tuple[float, float, float, float]]:
    """x and y from and to of the floor's strips."""
    across, half = STRIPS[1], case.width_m / 2
    xs = np.linspace(0, case.length_m, STRIPS[0] + 1)
    ys = np.linspace(0, half, across + 1)
    return [(xs[i], xs[i + 1], ys[j], ys[j + 1]) for i, j in product(range(STRIPS[0]), range(across))]


def _parts(case: EnclosureCase) -> tuple[float, float, float, float]:
    """W of the lamp in its beam, radiated to all sides inside, convected inside, and convected above the lid.

    Of what a glow lamp is given 18 % is convected, the rest radiated (IES Lighting Handbook; recalled): what a dome on a mesh
    keeps inside beyond the beam is radiation, and its warm air rises outside.
    """
    if not case.heaters:
        return 0.0, 0.0, 0.0, 0.0
    lamp, kind = case.heaters[0], heaters.HEATERS[case.heaters[0].kind]
    passed = passed_share(case, lamp)
    beam = kind.radiant_share * lamp.watts * passed
    if case.lid == "solid":
        return beam, lamp.watts - beam - CONVECTED * lamp.watts, CONVECTED * lamp.watts, 0.0
    keeps = kind.inside_share * (MESH_KEEPS if case.kind == "mesh" else 1.0)
    whole = lamp.watts - beam
    return beam, keeps * whole, 0.0, (1 - keeps) * whole


def _radiant(case: EnclosureCase) -> tuple[list[float], float]:
    """The lamp's flux on each strip of the floor, W/m², and on the walls; without a lamp the floor is warmed evenly."""
    if not case.heaters:
        return [EVENLY_W_M2] * len(_strips(case)), 0.0
    lamp, kind = case.heaters[0], heaters.HEATERS[case.heaters[0].kind]
    beam, around, _inside, _above = _parts(case)
    drop_m, found, hit = lamp.height_m - case.ground_depth_m, [], 0.0
    for x0, x1, y0, y1 in _strips(case):
        x, y = (np.linspace(a, b, 8) for a, b in ((x0, x1), (y0, y1)))
        each = ((beam, lamp.half_angle_deg), (around, DIFFUSE_DEG))
        field = sum(
            heaters.irradiance(watts, angle, kind.face_m, x[:, None] - lamp.x_m, y[None, :], drop_m) for watts, angle in each
        )
        mean = float(np.mean(field))
        found.append(ABSORPTANCE * mean)
        hit += 2 * mean * (x1 - x0) * (y1 - y0)
    sides = 2 * (case.length_m + case.width_m) * case.height_m + (case.length_m * case.width_m if case.lid == "solid" else 0.0)
    scattered = max(beam + around - hit, 0.0) + (1 - ABSORPTANCE) * hit
    return found, scattered * wall_share(case) / sides


def _convective(case: EnclosureCase) -> tuple[float, float]:
    """W of the half that end in the air inside, and above the lid."""
    _beam, _around, inside, above = _parts(case)
    return inside / 2, above / 2


def write(one: Resolved, folder: Path) -> None:
    """Write the case's files."""
    case, grid = one.case, _grid(one)
    mesh = case.lid != "solid"
    high = case.height_m + (ABOVE_M if mesh else 0.0)
    half = case.width_m / 2
    counts = [sum(part.cells for part in sections) for sections in grid]
    length = case.length_m
    corners = [
        (0, 0, 0),
        (length, 0, 0),
        (length, half, 0),
        (0, half, 0),
        (0, 0, high),
        (length, 0, high),
        (length, half, high),
        (0, half, high),
    ]
    points = " ".join(f"({x} {y} {z})" for x, y, z in corners)
    _file(
        folder,
        "system/blockMeshDict",
        f"convertToMeters 1; vertices ({points}); blocks (hex (0 1 2 3 4 5 6 7) ({counts[0]} {counts[1]} {counts[2]}) simpleGrading ({' '.join(map(_graded, grid))}));"
        " edges (); boundary ("
        " middle { type symmetryPlane; faces ((0 1 5 4)); }"
        " bottom { type wall; faces ((0 3 2 1)); }"
        " top { type wall; faces ((4 5 6 7)); }"
        " sides { type wall; faces ((0 4 7 3) (1 2 6 5) (3 7 6 2)); } );",
    )
    _sets(one, folder, high)
    _fields(one, folder)
    _constants(folder, high if mesh else max((vent.height_m for vent in case.vents), default=0.0))
    _options(one, folder)
    _system(folder)


def _sets(one: Resolved, folder: Path, high: float) -> None:
    case = one.case
    hair, half, length = 1e-4, case.width_m / 2, case.length_m
    actions, patches = [], []

    def patch(name: str, kind: str, box: tuple[float, ...], source: str) -> None:
        bounds = f"({box[0]} {box[1]} {box[2]}) ({box[3]} {box[4]} {box[5]})"
        actions.append(f"{{ name {name}; type faceSet; action new; source patchToFace; patch {source}; }}")
        actions.append(f"{{ name {name}; type faceSet; action subset; source boxToFace; box {bounds}; }}")
        patches.append(f"{{ name {name}; patchInfo {{ type {kind}; }} constructFrom set; set {name}; }}")

    for index, (x0, x1, y0, y1) in enumerate(_strips(case)):
        patch(f"floor{index}", "wall", (x0, y0, -hair, x1, y1, hair), "bottom")
    if case.lid != "solid":
        over = case.height_m
        patch("above", "patch", (-hair, -hair, over, length + hair, half + hair, high + hair), "sides")
        patch("sky", "patch", (-hair, -hair, high - hair, length + hair, half + hair, high + hair), "top")
    for index, (z0, z1, wide) in enumerate(_vents(one)):
        x = 0.0 if index % 2 == 0 else length
        patch(f"vent{index}", "patch", (x - hair, -hair, z0 - hair, x + hair, wide + hair, z1 + hair), "sides")
    _file(folder, "system/topoSetDict", "actions ( " + "\n".join(actions) + " );")
    actions = []  # of cells: cutting the patches throws sets away
    lamp_x, under = (
        (case.heaters[0].x_m, min(case.heaters[0].height_m, case.height_m)) if case.heaters else (length / 2, case.height_m)
    )
    over = case.height_m + MESH_M
    side = DOME_M / 2
    places = {"warmed": (under - WARMED_M, under, side), "damp": (0.0, 1.5 * WALL_CELL_M, 0.0)}
    if case.lid == "mesh":
        places |= {
            "warmedAbove": (over, over + DOME_M / 2, side),
            "wires": (case.height_m, over, 0.0),
            "dome": (case.height_m, over, side),
        }
    for name, (z0, z1, reach) in places.items():
        x0, x1, y1 = (lamp_x - reach, lamp_x + reach, reach) if reach else (0.0, length, half)
        actions.append(f"{{ name {name}; type cellSet; action new; source boxToCell; box ({x0} 0 {z0}) ({x1} {y1} {z1}); }}")
    if case.lid == "mesh":
        actions.append("{ name wires; type cellSet; action delete; source cellToCell; set dome; }")
        for name in ("wires", "dome"):
            actions.append(f"{{ name {name}; type cellZoneSet; action new; source setToCellZone; set {name}; }}")
    _file(folder, "system/cellSetDict", "actions ( " + "\n".join(actions) + " );")
    _file(folder, "system/createPatchDict", "pointSync false; patches ( " + "\n".join(patches) + " );")


def _vents(one: Resolved) -> list[tuple[float, float, float]]:
    """From and to which height each vent reaches, and how far across the half: whole faces, about the area of its jet.

    What flows in through a plane of given total pressure loses nothing at its edge: the area is that of the jet.
    """
    _along, across, up = (_lines(sections) for sections in _grid(one))
    found = []
    for vent in one.case.vents:
        low = int(np.abs(up[:-1] - vent.height_m + one.cell_m / 2).argmin())
        high = float(up[low + 1] - up[low])
        wide = across[1:][np.abs(across[1:] * high - DISCHARGE * vent.area_m2 / 2).argmin()]
        found.append((float(up[low]), float(up[low + 1]), float(wide)))
    return found


def _outer(case: EnclosureCase, *, up: bool = False) -> float:
    """The conductance of a wall from its inner skin to the room, W/m²K."""
    build = walls.build_of(case.kind, case.wall_m)
    return 1 / (2 * walls.half_wall(build) + (walls.R_UP if up else walls.R_SIDEWAYS))


def _under(case: EnclosureCase) -> float:
    """The same of the floor: ground, base and the air below."""
    build = walls.build_of(case.kind, case.wall_m)
    down = 2 * walls.half_wall(build) + walls.R_DOWN
    return 1 / (case.ground_depth_m / ground.conductivity(case.ground_kind, case.ground_damp) + down)


def _given(case: EnclosureCase) -> dict[str, tuple[float, float]]:
    """Each surface's conductance to the room (W/m²K) and the lamp's flux on it (W/m²)."""
    on_floor, on_walls = _radiant(case)
    found = {f"floor{index}": (_under(case), flux) for index, flux in enumerate(on_floor)}
    return found | {"sides": (_outer(case), on_walls), "top": (_outer(case, up=True), on_walls)}


def _views(case: EnclosureCase) -> "np.ndarray[Any, Any]":
    """What each strip of the floor, the sides and the top sees of them all, (k, k), rows adding up to 1.

    A strip sees the top by the cosine law from its middle; sides and top follow by reciprocity.
    """
    strips, floor_m2 = _strips(case), case.length_m * case.width_m
    sides_m2 = 2 * (case.length_m + case.width_m) * case.height_m
    xs, ys = (np.linspace(-side / 2, side / 2, 61)[:-1] + side / 120 for side in (case.length_m, case.width_m))
    count = len(strips)
    found = np.zeros((count + 2, count + 2))
    areas = np.array([2 * (x1 - x0) * (y1 - y0) for x0, x1, y0, y1 in strips])
    for index, (x0, x1, y0, y1) in enumerate(strips):
        x, y = (x0 + x1) / 2 - case.length_m / 2, (y0 + y1) / 2
        far = (xs[:, None] - x) ** 2 + (ys[None, :] - y) ** 2 + case.height_m**2
        found[index, -1] = float((case.height_m**2 / (math.pi * far**2)).sum() * floor_m2 / (xs.size * ys.size))
        found[index, -2] = 1 - found[index, -1]
    found[-1, :count] = areas * found[:count, -1] / floor_m2
    found[-1, -2] = 1 - found[-1, :count].sum()
    found[-2, :count] = areas * found[:count, -2] / sides_m2
    found[-2, -1] = floor_m2 * found[-1, -2] / sides_m2
    found[-2, -2] = 1 - found[-2].sum()
    return found


def _radiate(one: Resolved, folder: Path) -> None:
    """Let every surface see the others as warm as they come to be: the room's own temperature stands above a mesh.

    What each gives to the air is taken as it is, and to grow by `CONVECTIVE` for each kelvin.
    """
    case, latest = one.case, _latest(folder)
    given, text = _given(case), (latest / "T").read_text()
    names = [name for name in given if name != "top" or case.lid == "solid"]
    count = len(names)
    places = {name: text.index("Ta ", text.index(f"    {name}\n")) for name in names}
    outer = np.array([float(text[places[name] : text.index(";", places[name])].split()[-1]) for name in names])
    now = np.array([float(_patch(latest / "T", name).mean()) for name in names])
    conductance, flux = np.array([given[name] for name in names]).T
    to_air = (conductance + RADIATIVE) * (outer - now)
    views = _views(case)
    of_room = ROOM_K * views[:count, count:].sum(axis=1)
    known = conductance * ROOM_K + flux + RADIATIVE * of_room - to_air + CONVECTIVE * now
    coming = np.linalg.solve(np.diag(conductance + RADIATIVE + CONVECTIVE) - RADIATIVE * views[:count, :count], known)
    sees = views[:count, :count] @ coming + of_room
    for name, value in zip(names, (conductance * ROOM_K + flux + RADIATIVE * sees) / (conductance + RADIATIVE), strict=True):
        place = text.index("Ta ", text.index(f"    {name}\n"))
        text = text[:place] + f"Ta constant {value:.4f}" + text[text.index(";", place) :]
    (latest / "T").write_text(text)
    shutil.copy(folder / "0/conductivity", latest)  # what does not change is not written


def _fields(one: Resolved, folder: Path) -> None:
    case = one.case
    on_floor, _on_walls = _radiant(case)

    def wall(conductance: float, flux: float) -> str:
        both = conductance + RADIATIVE
        outer = ROOM_K + flux / both
        return (
            f"type externalWallHeatFluxTemperature; mode coefficient; Ta constant {outer:.4f}; h uniform {both:.5f};"
            f" kappaMethod lookup; kappa conductivity; relaxation 1; value uniform {ROOM_K};"
        )

    temperatures = {name: wall(*given) for name, given in _given(case).items()} | {"bottom": wall(_under(case), 0.0)}
    openings = [*(["above", "sky"] if case.lid != "solid" else []), *(f"vent{index}" for index in range(len(case.vents)))]
    free = f"type inletOutlet; inletValue uniform {ROOM_K}; value uniform {ROOM_K};"

    def boundary(walls_say: str, openings_say: dict[str, str], own: dict[str, str] | None = None) -> str:
        said = dict.fromkeys(("bottom", "sides", "top", *(f"floor{index}" for index in range(len(on_floor)))), walls_say)
        said |= openings_say | (own or {})
        if case.lid != "solid":
            said.pop("top")
        return "boundaryField { middle { type symmetryPlane; } " + " ".join(f"{n} {{ {s} }}" for n, s in said.items()) + " }"

    kelvin, pressure = "[0 0 0 1 0 0 0]", "[0 2 -2 0 0 0 0]"
    _file(
        folder,
        "0/T",
        f"dimensions {kelvin}; internalField uniform {ROOM_K + 3}; " + boundary("", dict.fromkeys(openings, free), temperatures),
        "volScalarField",
    )
    moves = dict.fromkeys(openings, "type pressureInletOutletVelocity; value uniform (0 0 0);")
    _file(
        folder,
        "0/U",
        "dimensions [0 1 -1 0 0 0 0]; internalField uniform (0 0 0); " + boundary("type noSlip;", moves),
        "volVectorField",
    )
    # The room's air is the reference: outside this pressure is nought at any height, and where warm air leaves the height is nought.
    held = dict.fromkeys(openings, "type totalPressure; p0 uniform 0; value uniform 0;")
    still = "type fixedFluxPressure; rho rhok; value uniform 0;"
    nought = "type fixedValue; value uniform 0;"
    conducts = f"type fixedValue; value uniform {CONDUCTIVITY};"
    for name, unit, value, of_walls, of_openings in (
        ("p_rgh", pressure, 0.0, still, held),
        ("alphat", "[0 2 -1 0 0 0 0]", 0.0, nought, dict.fromkeys(openings, "type calculated; value uniform 0;")),
        ("nut", "[0 2 -1 0 0 0 0]", 0.0, nought, dict.fromkeys(openings, "type calculated; value uniform 0;")),
        ("conductivity", "[1 1 -3 -1 0 0 0]", CONDUCTIVITY, conducts, dict.fromkeys(openings, conducts)),
    ):
        body = f"dimensions {unit}; internalField uniform {value}; " + boundary(of_walls, of_openings)
        _file(folder, f"0/{name}", body, "volScalarField")
    dry = dict.fromkeys(openings, "type inletOutlet; inletValue uniform 0; value uniform 0;")
    _file(
        folder,
        "0/s",
        "dimensions [0 0 0 0 0 0 0]; internalField uniform 0; " + boundary("type zeroGradient;", dry),
        "volScalarField",
    )


def _constants(folder: Path, out_m: float) -> None:
    _file(folder, "constant/g", "dimensions [0 1 -2 0 0 0 0]; value (0 0 -9.81);", "uniformDimensionedVectorField")
    _file(
        folder,
        "constant/transportProperties",
        f"transportModel Newtonian; nu {AIR_VISCOSITY}; beta {1 / ROOM_K:.6f}; TRef {ROOM_K}; Pr {PRANDTL}; Prt 0.85; rhoRef {DENSITY}; CpRef 1006;",
    )
    _file(folder, "constant/hRef", f"dimensions [0 1 0 0 0 0 0]; value {out_m};", "uniformDimensionedScalarField")
    _file(
        folder,
        "constant/turbulenceProperties",
        "simulationType LES; LES { LESModel WALE; turbulence on; printCoeffs off; delta cubeRootVol; cubeRootVolCoeffs { deltaCoeff 1; } }",
    )
    _file(folder, "constant/radiationProperties", "radiation off; radiationModel none;")


def _options(one: Resolved, folder: Path) -> None:
    case, cell = one.case, MESH_M
    inside, above = _convective(case)

    def heat(name: str, watts: float) -> str:
        return (
            f"{name} {{ type scalarSemiImplicitSource; active yes; selectionMode cellSet; cellSet {name}; volumeMode absolute;"
            f" injectionRateSuSp {{ T ({watts / (DENSITY * 1006):.8f} 0); }} }}"
        )

    said = [heat("warmed", inside)]
    if case.lid == "mesh":
        said.append(heat("warmedAbove", above))
        # Brundrett 1993: K = (7/Re + 0.9/log₁₀(Re + 1.25) + 0.05 log₁₀ Re)(1 − s²)/s², as a straight and a square part about 0.1 m/s.
        share = case.mesh_open_share
        shape = (1 - share**2) / share**2

        def resistance(speed: float) -> float:
            reynolds = speed * WIRE_M / AIR_VISCOSITY
            return shape * (7 / reynolds + 0.9 / math.log10(reynolds + 1.25) + 0.05 * math.log10(reynolds)) * speed**2 / 2

        slow, fast = 0.05, 0.2
        straight = (resistance(slow) / slow - resistance(fast) * slow / fast**2) / (1 - slow / fast)
        square = (resistance(slow) - straight * slow) / slow**2
        d, f = straight / cell / AIR_VISCOSITY, 2 * square / cell
        for name, (slowed, stopped) in {"wires": (d, f), "dome": (1e9, 0.0)}.items():
            said.append(
                f"{name} {{ type explicitPorositySource; active yes; explicitPorositySourceCoeffs {{ selectionMode cellZone; cellZone {name};"
                f" type DarcyForchheimer; d ({slowed:.1f} {slowed:.1f} {slowed:.1f}); f ({stopped:.3f} {stopped:.3f} {stopped:.3f});"
                " coordinateSystem { type cartesian; origin (0 0 0); rotation { type axes; e1 (1 0 0); e2 (0 1 0); } } } }"
            )
    _file(folder, "constant/fvOptions", "\n".join(said))


def _system(folder: Path) -> None:
    scalar = (
        "functions { vapour { type scalarTransport; libs (solverFunctionObjects); field s; D 3e-05; nCorr 0; schemesField s; resetOnStartUp false;"
        " fvOptions { damp { type scalarSemiImplicitSource; active yes; selectionMode cellSet; cellSet damp; volumeMode absolute; injectionRateSuSp { s (1e-6 0); } } } }"
        " held { type readFields; libs (fieldFunctionObjects); readOnStart true; fields (conductivity); } means { type fieldAverage; libs (fieldFunctionObjects); restartOnRestart true; timeStart "
        + str(STAGES[-2])
        + "; writeControl writeTime;"
        " fields ( T { mean on; prime2Mean off; base time; } U { mean on; prime2Mean off; base time; } s { mean on; prime2Mean off; base time; } ); }"
        " }"
    )
    _file(
        folder,
        "system/controlDict",
        f"application buoyantBoussinesqPimpleFoam; startFrom latestTime; stopAt endTime; endTime {STAGES[0]}; deltaT 0.01; writeControl adjustableRunTime;"
        f" writeInterval 10; purgeWrite 1; writeFormat ascii; writePrecision 7; runTimeModifiable true; adjustTimeStep yes; maxCo 2; maxDeltaT 0.2; "
        + scalar,
    )
    _file(
        folder,
        "system/fvSchemes",
        "ddtSchemes { default Euler; } gradSchemes { default Gauss linear; } divSchemes { default none; div(phi,U) Gauss limitedLinearV 1;"
        " div(phi,T) Gauss limitedLinear 1; div(phi,s) Gauss limitedLinear01 1;"
        " div((nuEff*dev2(T(grad(U))))) Gauss linear; }"
        " laplacianSchemes { default Gauss linear corrected; } interpolationSchemes { default linear; } snGradSchemes { default corrected; }",
    )
    _file(
        folder,
        "system/fvSolution",
        'solvers { "p_rgh.*" { solver GAMG; smoother DIC; tolerance 1e-7; relTol 0.01; }'
        ' "(U|T|s).*" { solver PBiCGStab; preconditioner DILU; tolerance 1e-6; relTol 0.05; }'
        " }"
        " PIMPLE { momentumPredictor yes; nOuterCorrectors 1; nCorrectors 3; nNonOrthogonalCorrectors 0; "
        ' pRefCell 0; pRefValue 0; } relaxationFactors { equations { ".*" 1; } }',
    )


def run(one: Resolved, folder: Path) -> None:
    """Mesh and solve, by stages, or go on after the last; before each, what surfaces radiate follows their temperatures."""
    done = int(_latest(folder).name) if _times(folder) else 0
    cells = ["topoSet", "-dict", "system/cellSetDict"]
    for command in (["blockMesh"], ["topoSet"], ["createPatch", "-overwrite"], cells) if not done else ():
        _do(folder, command)
    control = folder / "system/controlDict"
    for end in STAGES:
        if end > done:
            said = re.sub(r"endTime \d+; ", f"endTime {end}; ", control.read_text())
            control.write_text(said)
            if _times(folder):
                _radiate(one, folder)
            _do(folder, ["buoyantBoussinesqPimpleFoam"])


def _do(folder: Path, command: list[str]) -> None:
    environment = {**os.environ, "WM_PROJECT_DIR": os.environ.get("WM_PROJECT_DIR", "/usr/share/openfoam")}
    with (folder / f"log.{command[0]}").open("a") as log:
        subprocess.run(["nice", "-n", "3", *command], cwd=folder, env=environment, stdout=log, stderr=subprocess.STDOUT, check=True)


def _times(folder: Path) -> list[Path]:
    """The folders of the times that were written."""
    return [path for path in folder.iterdir() if re.fullmatch(r"\d+(\.\d+)?", path.name) and path.name != "0"]


def _latest(folder: Path) -> Path:
    return max(_times(folder), key=lambda path: float(path.name))


def _values(path: Path) -> "np.ndarray[Any, Any]":
    """The inner field of a file in ascii."""
    text = path.read_text()
    at = text.index("internalField")
    found = re.search(r"nonuniform List<(\w+)>\s*\n?(\d+)\s*\(", text[at:])
    assert found is not None
    body = text[at + found.end() :].split("\n)\n", 1)[0]
    numbers = np.array([float(part) for part in re.findall(r"[-+0-9.eE]+", body)])
    return numbers.reshape(int(found[2]), -1)


def _patch(path: Path, name: str) -> "np.ndarray[Any, Any]":
    """A field's values on the faces of a patch; one number where they are all alike."""
    text = path.read_text()
    body = text[text.index("boundaryField") :]
    body = body[re.search(rf"\n\s*{name}\n", body).end() :]  # type: ignore[union-attr]
    body = body[: body.index("\n    }")]
    found = re.search(r"\bvalue\s+(?:uniform ([-+0-9.eE]+)|nonuniform List<scalar>\s*\d+\s*\(([^)]*)\))", body)
    assert found is not None
    return np.array([float(part) for part in (found[1] or found[2]).split()])


def _floor(one: Resolved, latest: Path) -> list[list[float]]:
    """Surface temperature of the floor's strips at the end, °C, along and across."""
    each = [float(_patch(latest / "T", f"floor{index}").mean()) - KELVIN for index in range(len(_strips(one.case)))]
    return np.array(each).reshape(STRIPS).tolist()


def _convected(one: Resolved, latest: Path) -> tuple[float, float]:
    """W that the floor, and that floor and walls give to the air at the end: what they are given less what goes out and is radiated."""
    case = one.case
    given = _given(case)
    names = [name for name in given if name != "top" or case.lid == "solid"]
    at = np.array([float(_patch(latest / "T", name).mean()) if name in names else ROOM_K for name in given])
    strips = [2 * (x1 - x0) * (y1 - y0) for x0, x1, y0, y1 in _strips(case)]
    areas = np.array([*strips, 2 * (case.length_m + case.width_m) * case.height_m, case.length_m * case.width_m])
    flux = np.array([flux - conductance * (t - ROOM_K) for (conductance, flux), t in zip(given.values(), at, strict=True)])
    net = areas * (flux - RADIATIVE * (at - _views(case) @ at))
    return float(net[: len(strips)].sum()), float(net[: len(names)].sum())


def read(one: Resolved, folder: Path) -> dict[str, Any]:
    """The means over the last minutes: °C of five zones in two levels, and what goes through the openings."""
    case = one.case
    latest = _latest(folder)
    environment = {**os.environ, "WM_PROJECT_DIR": os.environ.get("WM_PROJECT_DIR", "/usr/share/openfoam")}
    for function in ("writeCellCentres", "writeCellVolumes"):
        command = ["postProcess", "-func", function, "-latestTime"]
        subprocess.run(command, cwd=folder, env=environment, check=True, stdout=subprocess.DEVNULL)
    centres, volumes = _values(latest / "C"), _values(latest / "V")[:, 0]
    celsius, speed, vapour = _values(latest / "TMean")[:, 0] - KELVIN, _values(latest / "UMean"), _values(latest / "sMean")[:, 0]
    inside = centres[:, 2] < case.height_m
    zone = np.minimum((centres[:, 0] / case.length_m * 5).astype(int), 4)
    level = np.minimum((centres[:, 2] / case.height_m * 2).astype(int), 1)

    def mean(values: "np.ndarray[Any, Any]", where: "np.ndarray[Any, Any]") -> float:
        return float(np.average(values[where], weights=volumes[where]))

    air = [[mean(celsius, inside & (zone == z) & (level == k)) for z in range(5)] for k in range(2)]
    volume = case.length_m * case.width_m * case.height_m
    # So much of a scalar given off at the floor, over what is left inside: changes an hour as moisture meets them.
    source_m3_s, left = 2 * 1e-6, mean(vapour, inside)
    changes = 3600 * source_m3_s / (volume * max(left, 1e-12))
    (of_floor_w, convected_w), floor = _convected(one, latest), _floor(one, latest)
    found: dict[str, Any] = {
        "air_c": np.round(air, 2).tolist(),
        "mean_c": mean(celsius, inside),
        "floor_c": np.round(floor, 2).tolist(),
        "convected_w": round(convected_w, 2),
        "floor_h_w_m2k": round(of_floor_w / (case.length_m * case.width_m * (float(np.mean(floor)) - mean(celsius, inside))), 2),
        "changes_by_vapour_h": changes,
        "cells": int(inside.sum()),
    }
    if case.lid == "mesh":
        layer = np.abs(centres[:, 2] - (case.height_m + MESH_M / 2)) < MESH_M / 2
        up = (np.maximum(speed[layer, 2], 0.0) * volumes[layer]).sum() / MESH_M * 2
        found["changes_by_mean_flow_h"] = float(3600 * up / volume)
    return found


def main() -> None:
    """Do one step of one case."""
    step, name, folder = sys.argv[1], sys.argv[2], Path(sys.argv[3]) / sys.argv[2]
    if step == "write":
        write(RESOLVED[name], folder)
    elif step == "run":
        run(RESOLVED[name], folder)
    else:
        kept = HERE / "resolved.json"
        every = json.loads(kept.read_text()) if kept.exists() else {}
        every[name] = read(RESOLVED[name], folder)
        kept.write_text(json.dumps(every, indent=1) + "\n")


if __name__ == "__main__":
    main()
