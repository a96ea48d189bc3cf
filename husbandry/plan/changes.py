"""The changes that do one thing to a plan's ground and things, as paths of its document."""

from typing import Any, Final

from husbandry.assessment import Change
from husbandry.plan.grounds import Ground
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.things import Thing

LEAST_LAYER_M: Final = 0.001


def raised(plan: HabitatPlan, thing: Thing, top_m: float) -> Change:
    """Bring a thing's top to `top_m` above its base: what stands grows taller; what is fixed, or lies between two ends, goes up."""
    path = plan.path_of(thing)
    if thing.lets_under:
        return Change(f"{path}.up_m", round(max(top_m - thing.height_m, 0.0), 4))
    return Change(f"{path}.height_m", round(max(top_m - thing.up_m, 0.0), 4))


def added(plan: HabitatPlan, thing: dict[str, Any]) -> Change:
    """One more thing."""
    return Change(f"things.{len(plan.things)}", thing)


def ground_depth(plan: HabitatPlan, depth_m: float) -> tuple[Change, ...]:
    """Make the ground so deep where no area has its own, each layer by its share."""
    layers, now_m = plan.ground.layers, plan.ground.depth_m
    if len(layers) == 1:
        return (Change("ground.layers.0.depth_m", round(depth_m, 4)),)
    shares = [layer.depth_m / now_m for layer in layers] if now_m > LEAST_LAYER_M else [1 / len(layers)] * len(layers)
    depths = [round(share * depth_m, 4) for share in shares[:-1]]
    depths.append(round(max(depth_m - sum(depths), 0.0), 4))
    return tuple(Change(f"ground.layers.{index}.depth_m", depth) for index, depth in enumerate(depths))


def ground_damp(plan: HabitatPlan, *, damp: bool) -> tuple[Change, ...]:
    """Keep the ground damp below, or none of it: of several layers the top one stays dry."""
    layers = plan.ground.layers
    wet = range(len(layers) - 1) if len(layers) > 1 else range(1)
    which = wet if damp else range(len(layers))
    return tuple(Change(f"ground.layers.{index}.damp", damp) for index in which if layers[index].damp is not damp)


def one_ground(kind: str, depth_m: float, *, damp: bool = False) -> dict[str, Any]:
    """A ground of one material, as it stands in the document."""
    return {"layers": [{"parts": [{"material": kind, "parts": 1.0}], "depth_m": depth_m, "damp": damp}]}


def paper(ground: Ground, depth_m: float) -> dict[str, Any]:
    """Paper in place of a ground, as damp as that was: what lives damp would dry out on dry paper."""
    return one_ground("paper", depth_m, damp=ground.damp)
