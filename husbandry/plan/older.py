"""Documents of ridgeback-plan/1: one ground, one basking place, hides along a line and a bowl become layers and things."""

from typing import Any, Final

BEFORE: Final = "ridgeback-plan/1"
PERCH_M: Final = 0.03  # how thick a branch is taken to be
RIM_M: Final = 0.01  # of a bowl above its water
USUAL_WATER_M: Final = 0.03
OLD_PARTS: Final = ("platform", "hides", "bowl")
GROUND: Final = {"kind": "layers.0.parts.0.material", "depth_m": "layers.0.depth_m", "damp": "layers.0.damp"}
OF_BOWL: Final = {"depth_m": "water_m", "diameter_m": "length_m"}


def is_older(data: Any) -> bool:
    """Tell whether a document is one of before, by its format or by what it holds."""
    if not isinstance(data, dict):
        return False
    if "format" in data:
        return bool(data["format"] == BEFORE)
    ground = data.get("ground")
    return any(name in data for name in OLD_PARTS) or (isinstance(ground, dict) and "layers" not in ground and bool(ground))


def upgraded(data: dict[str, Any], now: str) -> tuple[dict[str, Any], dict[str, str]]:
    """Return a document of before in today's shape, with where each path of it stood: {path now: path before}.

    What is not as it should be is left as it is, for the reading to say so.
    """
    made = {name: value for name, value in data.items() if name not in OLD_PARTS} | {"format": now}
    paths: dict[str, str] = {}
    ground = data.get("ground")
    if isinstance(ground, dict):
        made["ground"] = _ground(ground)
        paths |= {f"ground.{new}": f"ground.{old}" for old, new in GROUND.items()}
    things: list[Any] = []

    def take(path: str, part: Any, turned: Any) -> None:
        if part is None:
            return
        at = f"things.{len(things)}"
        paths[at] = path
        things.append(turned(part) if isinstance(part, dict) else part)

    take("platform", data.get("platform"), _platform)
    hides = data.get("hides") or ()
    if not isinstance(hides, list | tuple):
        return made | {"things": hides}, paths | {"things": "hides"}
    for index, hide in enumerate(hides):
        take(f"hides.{index}", hide, _hide)
    bowl = data.get("bowl")
    for old, new in OF_BOWL.items():
        paths[f"things.{len(things)}.{new}"] = f"bowl.{old}"
    take("bowl", bowl, _bowl)
    if things:
        made["things"] = [*things, *data.get("things", ())]
    return made, paths


def path_before(path: str, paths: dict[str, str]) -> str:
    """Where a path of today's stood in the document that was read."""
    known = max((new for new in paths if path == new or path.startswith(f"{new}.")), key=len, default="")
    return paths[known] + path[len(known) :] if known else path


def _ground(ground: dict[str, Any]) -> dict[str, Any]:
    if not ground or "layers" in ground:
        return ground
    rest = {name: value for name, value in ground.items() if name not in GROUND}
    part: dict[str, Any] = {"parts": 1.0}
    if "kind" in ground:
        part["material"] = ground["kind"]
    layer: dict[str, Any] = {name: ground[name] for name in ("depth_m", "damp") if name in ground}
    return rest | {"layers": [{"parts": [part], **layer}]}


def _platform(part: dict[str, Any]) -> dict[str, Any]:
    made = {"kind": "slate", **part, "basking": True}
    top_m = part.get("height_m")
    if made["kind"] == "branch" and isinstance(top_m, int | float) and not isinstance(top_m, bool) and top_m > 0:
        thick_m = min(PERCH_M, top_m)
        made |= {"height_m": round(thick_m, 6), "up_m": round(top_m - thick_m, 6), "width_m": PERCH_M}
    return made


def _hide(part: dict[str, Any]) -> dict[str, Any]:
    rest = {name: value for name, value in part.items() if name != "humid"}
    return {"kind": "humid-hide" if part.get("humid") else "hide", **rest}


def _bowl(part: dict[str, Any]) -> dict[str, Any]:
    rest = {name: value for name, value in part.items() if name not in OF_BOWL}
    water_m = part.get("depth_m")
    rim_m = (water_m if isinstance(water_m, int | float) and not isinstance(water_m, bool) else USUAL_WATER_M) + RIM_M
    return {
        "kind": "bowl",
        **rest,
        **({"length_m": part["diameter_m"]} if "diameter_m" in part else {}),
        **({} if water_m is None else {"water_m": water_m}),
        "height_m": round(rim_m, 6),
    }
