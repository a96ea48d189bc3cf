"""Write, run and read the resolved flow of an enclosure with OpenFOAM from Debian's packages; by hand, some half an hour a case.

    apt-get install --no-install-recommends openfoam
    PYTHONPATH=. .venv-test/bin/python tests/reference/openfoam.py write|run|read vented-box /tmp/of

`read` puts the zones' means into tests/reference/resolved.json. Half of the enclosure is computed, to the plane through its middle. Walls and
ground are conductances to the room; long-wave radiation between the surfaces is solved (fvDOM, a transparent gas); the lamp's radiant heat is a
flux on floor and walls, its convective heat a source of the air under it; a mesh is a layer with Brundrett's resistance; vapour is a scalar that
is carried and does not move the air. The room above a mesh is part of what is computed.
"""

import json
import math
import os
import re
import subprocess
import sys
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
STRIPS: Final = (9, 3)  # of the floor, along and across its half
END_S: Final = 360
MEAN_FROM_S: Final = 240
HEAD: Final = "FoamFile {{ version 2.0; format ascii; class {kind}; object {name}; }}\n"
HERE: Final = Path(__file__).parent


def _file(folder: Path, place: str, body: str, kind: str = "dictionary") -> None:
    path = folder / place
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text(HEAD.format(kind=kind, name=path.name) + body)


def _strips(case: EnclosureCase) -> list[tuple[float, float, float, float]]:
    """x and y from and to of the floor's strips."""
    across, half = STRIPS[1], case.width_m / 2
    xs = np.linspace(0, case.length_m, STRIPS[0] + 1)
    ys = np.linspace(0, half, across + 1)
    return [(xs[i], xs[i + 1], ys[j], ys[j + 1]) for i, j in product(range(STRIPS[0]), range(across))]


def _radiant(case: EnclosureCase) -> tuple[list[float], float]:
    """The lamp's flux on each strip, W/m², and on the walls."""
    lamp, kind = case.heaters[0], heaters.HEATERS[case.heaters[0].kind]
    watts = kind.radiant_share * lamp.watts * passed_share(case, lamp)
    drop_m, found, hit = lamp.height_m - case.ground_depth_m, [], 0.0
    for x0, x1, y0, y1 in _strips(case):
        x, y = (np.linspace(a, b, 8) for a, b in ((x0, x1), (y0, y1)))
        field = heaters.irradiance(watts, lamp.half_angle_deg, kind.face_m, x[:, None] - lamp.x_m, y[None, :], drop_m)
        mean = float(field.mean())
        found.append(ABSORPTANCE * mean)
        hit += 2 * mean * (x1 - x0) * (y1 - y0)
    sides = 2 * (case.length_m + case.width_m) * case.height_m + (case.length_m * case.width_m if case.lid == "solid" else 0.0)
    scattered = max(watts - hit, 0.0) + (1 - ABSORPTANCE) * hit
    return found, scattered * wall_share(case) / sides


def _convective(case: EnclosureCase) -> tuple[float, float]:
    """W of the half that end in the air inside, and above the lid."""
    lamp, kind = case.heaters[0], heaters.HEATERS[case.heaters[0].kind]
    rest = (1 - kind.radiant_share) * lamp.watts
    if case.lid == "solid":
        return rest / 2, 0.0
    keeps = kind.inside_share * (MESH_KEEPS if case.kind == "mesh" else 1.0)
    whole = rest + (1 - passed_share(case, lamp)) * kind.radiant_share * lamp.watts
    return keeps * whole / 2, (1 - keeps) * whole / 2


def write(one: Resolved, folder: Path) -> None:
    """Write the case's files."""
    case, cell = one.case, one.cell_m
    mesh = case.lid == "mesh"
    high = case.height_m + (ABOVE_M if mesh else 0.0)
    half = case.width_m / 2
    counts = [max(round(size / cell), 4) for size in (case.length_m, half, high)]
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
        f"convertToMeters 1; vertices ({points}); blocks (hex (0 1 2 3 4 5 6 7) ({counts[0]} {counts[1]} {counts[2]}) simpleGrading (1 1 1));"
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
    case, cell = one.case, one.cell_m
    hair, half, length = 1e-4, case.width_m / 2, case.length_m
    actions, patches = [], []

    def patch(name: str, kind: str, box: tuple[float, ...], source: str) -> None:
        bounds = f"({box[0]} {box[1]} {box[2]}) ({box[3]} {box[4]} {box[5]})"
        actions.append(f"{{ name {name}; type faceSet; action new; source patchToFace; patch {source}; }}")
        actions.append(f"{{ name {name}; type faceSet; action subset; source boxToFace; box {bounds}; }}")
        patches.append(f"{{ name {name}; patchInfo {{ type {kind}; }} constructFrom set; set {name}; }}")

    for index, (x0, x1, y0, y1) in enumerate(_strips(case)):
        patch(f"floor{index}", "wall", (x0, y0, -hair, x1, y1, hair), "bottom")
    if case.lid == "mesh":
        over = case.height_m
        patch("above", "patch", (-hair, -hair, over, length + hair, half + hair, high + hair), "sides")
        patch("sky", "patch", (-hair, -hair, high - hair, length + hair, half + hair, high + hair), "top")
    for index, vent in enumerate(case.vents):
        # What flows in through a plane of given total pressure loses nothing at its edge: the area is that of the jet.
        wide = min(DISCHARGE * vent.area_m2 / 2 / cell, half)
        x = 0.0 if index % 2 == 0 else length
        z0, z1 = vent.height_m - cell / 2, vent.height_m + cell / 2
        z0 = round(z0 / cell) * cell
        z1 = z0 + cell
        patch(f"vent{index}", "patch", (x - hair, -hair, z0 - hair, x + hair, wide + cell / 2, z1 + hair), "sides")
    _file(folder, "system/topoSetDict", "actions ( " + "\n".join(actions) + " );")
    actions = []  # of cells: cutting the patches throws sets away
    lamp, under = case.heaters[0], min(case.heaters[0].height_m, case.height_m)
    places = {"warmed": (under - 0.05, under), "warmedAbove": (case.height_m + cell, case.height_m + cell + 0.08)}
    for name, (z0, z1) in places.items():
        if name == "warmedAbove" and case.lid != "mesh":
            continue
        box = f"({lamp.x_m - 0.05} 0 {z0}) ({lamp.x_m + 0.05} 0.05 {z1})"
        actions.append(f"{{ name {name}; type cellSet; action new; source boxToCell; box {box}; }}")
    actions.append(f"{{ name damp; type cellSet; action new; source boxToCell; box (0 0 0) ({length} {half} {1.2 * cell}); }}")
    if case.lid == "mesh":
        box = f"(0 0 {case.height_m}) ({length} {half} {case.height_m + 0.99 * cell})"
        actions.append(f"{{ name wires; type cellSet; action new; source boxToCell; box {box}; }}")
        actions.append("{ name wires; type cellZoneSet; action new; source setToCellZone; set wires; }")
    _file(folder, "system/cellSetDict", "actions ( " + "\n".join(actions) + " );")
    _file(folder, "system/createPatchDict", "pointSync false; patches ( " + "\n".join(patches) + " );")


def _outer(case: EnclosureCase, *, up: bool = False) -> float:
    """The conductance of a wall from its inner skin to the room, W/m²K."""
    build = walls.build_of(case.kind, case.wall_m)
    return 1 / (2 * walls.half_wall(build) + (walls.R_UP if up else walls.R_SIDEWAYS))


def _under(case: EnclosureCase) -> float:
    """The same of the floor: ground, base and the air below."""
    build = walls.build_of(case.kind, case.wall_m)
    down = 2 * walls.half_wall(build) + walls.R_DOWN
    return 1 / (case.ground_depth_m / ground.conductivity(case.ground_kind, case.ground_damp) + down)


def _fields(one: Resolved, folder: Path) -> None:
    case = one.case
    on_floor, on_walls = _radiant(case)
    base, sides, lid = _under(case), _outer(case), _outer(case, up=True)

    def wall(conductance: float, flux: float) -> str:
        outer = ROOM_K + flux / conductance
        return (
            f"type externalWallHeatFluxTemperature; mode coefficient; Ta constant {outer:.4f}; h uniform {conductance:.5f};"
            f" kappaMethod lookup; kappa conductivity; qr qr; qrRelaxation 0.5; relaxation 1; value uniform {ROOM_K};"
        )

    temperatures = {f"floor{index}": wall(base, flux) for index, flux in enumerate(on_floor)}
    temperatures |= {"bottom": wall(base, 0.0), "sides": wall(sides, on_walls), "top": wall(lid, on_walls)}
    openings = [*(["above", "sky"] if case.lid == "mesh" else []), *(f"vent{index}" for index in range(len(case.vents)))]
    free = f"type inletOutlet; inletValue uniform {ROOM_K}; value uniform {ROOM_K};"

    def boundary(walls_say: str, openings_say: dict[str, str], own: dict[str, str] | None = None) -> str:
        said = dict.fromkeys(("bottom", "sides", "top", *(f"floor{index}" for index in range(len(on_floor)))), walls_say)
        said |= openings_say | (own or {})
        if case.lid == "mesh":
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
        ("alphat", "[0 2 -1 0 0 0 0]", 0.0, nought, dict.fromkeys(openings, nought)),
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
    rays = "type greyDiffusiveRadiation; T T; value uniform 0;"
    _file(
        folder,
        "0/IDefault",
        "dimensions [1 0 -3 0 0 0 0]; internalField uniform 0; " + boundary(rays, dict.fromkeys(openings, rays)),
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
    _file(folder, "constant/turbulenceProperties", "simulationType laminar;")
    _file(
        folder,
        "constant/radiationProperties",
        "radiation on; radiationModel fvDOM; fvDOMCoeffs { nPhi 3; nTheta 4; maxIter 4; tolerance 1e-2; } solverFreq 25;"
        " absorptionEmissionModel constantAbsorptionEmission;"
        " constantAbsorptionEmissionCoeffs { absorptivity absorptivity [0 -1 0 0 0 0 0] 0.001; emissivity emissivity [0 -1 0 0 0 0 0] 0.001; E E [1 -1 -3 0 0 0 0] 0; }"
        " scatterModel none; sootModel none;",
    )
    _file(folder, "constant/boundaryRadiationProperties", '".*" { type lookup; emissivity 0.95; absorptivity 0.95; }')


def _options(one: Resolved, folder: Path) -> None:
    case, cell = one.case, one.cell_m
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
        said.append(
            "wires { type explicitPorositySource; active yes; explicitPorositySourceCoeffs { selectionMode cellZone; cellZone wires; type DarcyForchheimer;"
            f" d ({d:.1f} {d:.1f} {d:.1f}); f ({f:.3f} {f:.3f} {f:.3f});"
            " coordinateSystem { type cartesian; origin (0 0 0); rotation { type axes; e1 (1 0 0); e2 (0 1 0); } } } }"
        )
    _file(folder, "constant/fvOptions", "\n".join(said))


def _system(folder: Path) -> None:
    scalar = (
        "functions { vapour { type scalarTransport; libs (solverFunctionObjects); field s; D 3e-05; nCorr 0; schemesField s; resetOnStartUp false;"
        " fvOptions { damp { type scalarSemiImplicitSource; active yes; selectionMode cellSet; cellSet damp; volumeMode absolute; injectionRateSuSp { s (1e-6 0); } } } }"
        " held { type readFields; libs (fieldFunctionObjects); readOnStart true; fields (conductivity); } means { type fieldAverage; libs (fieldFunctionObjects); timeStart "
        + str(MEAN_FROM_S)
        + "; writeControl writeTime;"
        " fields ( T { mean on; prime2Mean off; base time; } U { mean on; prime2Mean off; base time; } s { mean on; prime2Mean off; base time; } ); }"
        " }"
    )
    _file(
        folder,
        "system/controlDict",
        f"application buoyantBoussinesqPimpleFoam; startFrom startTime; startTime 0; stopAt endTime; endTime {END_S}; deltaT 0.01; writeControl adjustableRunTime;"
        f" writeInterval {END_S}; purgeWrite 1; writeFormat ascii; writePrecision 7; runTimeModifiable true; adjustTimeStep yes; maxCo 1.5; maxDeltaT 0.2; "
        + scalar,
    )
    _file(
        folder,
        "system/fvSchemes",
        "ddtSchemes { default Euler; } gradSchemes { default Gauss linear; } divSchemes { default none; div(phi,U) bounded Gauss upwind;"
        " div(phi,T) bounded Gauss limitedLinear 1; div(phi,s) bounded Gauss limitedLinear 1; div(Ji,Ii_h) Gauss upwind;"
        " div((nuEff*dev2(T(grad(U))))) Gauss linear; }"
        " laplacianSchemes { default Gauss linear corrected; } interpolationSchemes { default linear; } snGradSchemes { default corrected; }",
    )
    _file(
        folder,
        "system/fvSolution",
        'solvers { "p_rgh.*" { solver GAMG; smoother DIC; tolerance 1e-7; relTol 0.01; }'
        ' "(U|T|s).*" { solver PBiCGStab; preconditioner DILU; tolerance 1e-6; relTol 0.05; }'
        " Ii { solver GAMG; tolerance 1e-4; relTol 0.1; smoother symGaussSeidel; maxIter 5; nPostSweeps 1; } }"
        " PIMPLE { momentumPredictor yes; nOuterCorrectors 1; nCorrectors 3; nNonOrthogonalCorrectors 0; "
        ' pRefCell 0; pRefValue 0; } relaxationFactors { equations { ".*" 1; } }',
    )


def run(folder: Path) -> None:
    """Mesh and solve."""
    environment = {**os.environ, "WM_PROJECT_DIR": os.environ.get("WM_PROJECT_DIR", "/usr/share/openfoam")}
    cells = ["topoSet", "-dict", "system/cellSetDict"]
    for command in (["blockMesh"], ["topoSet"], ["createPatch", "-overwrite"], cells, ["buoyantBoussinesqPimpleFoam"]):
        with (folder / f"log.{command[0]}").open("w") as log:
            subprocess.run(
                ["nice", "-n", "3", *command], cwd=folder, env=environment, stdout=log, stderr=subprocess.STDOUT, check=True
            )


def _values(path: Path) -> "np.ndarray[Any, Any]":
    """The inner field of a file in ascii."""
    text = path.read_text()
    at = text.index("internalField")
    found = re.search(r"nonuniform List<(\w+)>\s*\n?(\d+)\s*\(", text[at:])
    assert found is not None
    body = text[at + found.end() :].split("\n)\n", 1)[0]
    numbers = np.array([float(part) for part in re.findall(r"[-+0-9.eE]+", body)])
    return numbers.reshape(int(found[2]), -1)


def read(one: Resolved, folder: Path) -> dict[str, Any]:
    """The means over the last minutes: °C of five zones in two levels, and what goes through the openings."""
    case = one.case
    latest = max(
        (path for path in folder.iterdir() if re.fullmatch(r"\d+(\.\d+)?", path.name) and path.name != "0"),
        key=lambda path: float(path.name),
    )
    subprocess.run(["postProcess", "-func", "writeCellCentres", "-latestTime"], cwd=folder, check=True, stdout=subprocess.DEVNULL)
    centres = _values(latest / "C")
    celsius, speed, vapour = _values(latest / "TMean")[:, 0] - KELVIN, _values(latest / "UMean"), _values(latest / "sMean")[:, 0]
    inside = centres[:, 2] < case.height_m
    zone = np.minimum((centres[:, 0] / case.length_m * 5).astype(int), 4)
    level = np.minimum((centres[:, 2] / case.height_m * 2).astype(int), 1)
    air = [[float(celsius[inside & (zone == z) & (level == k)].mean()) for z in range(5)] for k in range(2)]
    volume = case.length_m * case.width_m * case.height_m
    # So much of a scalar given off at the floor, over what is left inside: changes an hour as moisture meets them.
    source_m3_s, mean = 2 * 1e-6, float(vapour[inside].mean())
    changes = 3600 * source_m3_s / (volume * max(mean, 1e-12))
    found: dict[str, Any] = {
        "air_c": air,
        "mean_c": float(celsius[inside].mean()),
        "changes_by_vapour_h": changes,
        "cells": int(inside.sum()),
    }
    if case.lid == "mesh":
        cell = one.cell_m
        layer = np.abs(centres[:, 2] - (case.height_m + cell / 2)) < cell / 2
        up = np.maximum(speed[layer, 2], 0.0).sum() * cell**2 * 2
        found["changes_by_mean_flow_h"] = float(3600 * up / volume)
    return found


def main() -> None:
    """Do one step of one case."""
    step, name, folder = sys.argv[1], sys.argv[2], Path(sys.argv[3]) / sys.argv[2]
    if step == "write":
        write(RESOLVED[name], folder)
    elif step == "run":
        run(folder)
    else:
        kept = HERE / "resolved.json"
        every = json.loads(kept.read_text()) if kept.exists() else {}
        every[name] = read(RESOLVED[name], folder)
        kept.write_text(json.dumps(every, indent=1) + "\n")


if __name__ == "__main__":
    main()
