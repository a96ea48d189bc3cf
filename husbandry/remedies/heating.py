"""More heat without light: how strong a further heater must be, what the one there would have to hold."""

from bisect import bisect_left, bisect_right
from collections.abc import Callable
from dataclasses import replace
from typing import Final

from husbandry.assessment import Quantity
from husbandry.climate.case import EnclosureCase, HeaterCase
from husbandry.climate.heaters import HEATERS
from husbandry.climate.nodes import nodes_of
from husbandry.climate.probes import probe_row
from husbandry.climate.states import Climate
from husbandry.climate.steady import predict, solve_steady
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies.hanging import LEAST_FOR_TUBE_M, TUBE_LONG_M, HangingPlace
from husbandry.review.facts import WARMS_AIR
from husbandry.review.judged import OFF, below
from husbandry.species.leaves import choose
from husbandry.species.stage import Stage

STRENGTHS_W: Final = (25.0, 40.0, 60.0, 100.0, 150.0, 240.0, 360.0)  # the sizes dark heaters come in (trade)
STRONGEST_CERAMIC_W: Final = 150.0  # what a lampholder carries; above that a guarded tube heater
MOST_HEATERS: Final = 8  # a plan holds no more
AIRS = ("warm_air", "cool_air", "hottest_air")
FURTHER_K = 0.5  # beyond the first guess, where the one further solve is made
LEAST_SLOPE = 0.25  # of the inside over the room, where thermostats give back nearly all
SOUNDED = 2  # of the usual strengths, the one whose effect is worked out first
HELD_ABOVE_K = 0.5  # the cool end over its night low


def dark_kind(watts: float) -> str:
    """The usual heater without light of this strength: a ceramic emitter, and above what its holder carries a tube heater."""
    return "ceramic-emitter" if watts <= STRONGEST_CERAMIC_W else "tube-heater"


def dark_watts(
    plan: HabitatPlan, stage: Stage, quantities: tuple[Quantity, ...], climate: Climate, place_for: Callable[[str], HangingPlace]
) -> dict[str, tuple[float, float]]:
    """The weakest usual dark heater that holds the night low, or the warm end by day, in a winter room.

    It hangs at `place_for` a phase. Worked out only where one is short; the strongest where none suffices. Watts, and the share of
    what is missing that they bring.
    """
    found: dict[str, tuple[float, float]] = {}
    night = choose(stage.heat.night_c, plan.schools)
    wanted = {
        "night": ("cool_air", night.least),
        "day": ("warm_air", choose(stage.heat.warm_air_c, plan.schools).middle),
    }
    for phase, (key, target_c) in wanted.items():
        if _short(quantities, key, phase):
            now_c = min((item.value or 0.0 for item in quantities if item.key == key and item.phase == phase), default=target_c)
            found[phase] = weakest(plan, climate, place_for(phase), (key, phase, target_c), now_c)
    return found


def weakest(
    plan: HabitatPlan,
    climate: Climate,
    place: HangingPlace,
    wanted: tuple[str, str, float],
    now_c: float,
    kind_of: Callable[[float], str] = dark_kind,
) -> tuple[float, float]:
    """The weakest usual dark heater at a `place` that brings an air to what is `wanted` in a winter room.

    `wanted` are the air's key, "day" or "night", and °C; `now_c` is what it has; `kind_of` tells the kind of a heater of some
    watts. Watts, and the share of what is missing that they bring: the strongest where none suffices.
    """
    key, phase, target_c = wanted
    tried: dict[float, float] = {}
    fields: dict[str, dict[str, float]] = {}
    case = enclosure_case(plan)

    def gained_k(watts: float) -> float:
        if watts not in tried:
            kind = kind_of(watts)
            if kind not in fields:
                fields[kind] = place.fields(plan, kind)
            at = fields[kind]
            beam, long_m = HEATERS[kind].half_angle_deg, at.get("length_m", TUBE_LONG_M)
            added = HeaterCase(kind, watts, at["x_m"], at["height_m"], beam, 0.0, 0.0, length_m=long_m)
            tried[watts] = predict(replace(case, heaters=(*case.heaters, added)), "winter", climate)[phase][key] - now_c
        return tried[watts]

    missing_k = max(target_c - now_c, 0.1)
    sizes = STRENGTHS_W if fits_tube(plan) else STRENGTHS_W[: bisect_right(STRENGTHS_W, STRONGEST_CERAMIC_W)]
    # Nearly straight in the watts: from one answer the next guess, until the size below falls short.
    index = SOUNDED
    for _ in sizes:
        got_k = gained_k(sizes[index])
        guess_w = sizes[index] * missing_k / max(got_k, 0.01)
        better = min(bisect_left(sizes, guess_w), len(sizes) - 1)
        if got_k < missing_k:
            better = max(better, min(index + 1, len(sizes) - 1))
        if better == index or (better > index and got_k >= missing_k):
            break
        if better < index and sizes[better] in tried:
            break
        index = better
    watts = sizes[index]
    return watts, gained_k(watts) / missing_k


def fits_tube(plan: HabitatPlan) -> bool:
    """Tell whether a tube heater can be fixed along the back wall: a wall of gauze carries none, and a short one has no room."""
    return plan.enclosure.kind != "mesh" and plan.enclosure.length_m >= LEAST_FOR_TUBE_M


def _short(quantities: tuple[Quantity, ...], key: str, phase: str) -> bool:
    """Tell whether a rule will find this air too cold in either season."""
    return any(item.key == key and item.phase == phase and item.verdict in OFF and below(item) for item in quantities)


def night_hold_c(
    plan: HabitatPlan, stage: Stage, case: EnclosureCase, quantities: tuple[Quantity, ...], climate: Climate
) -> dict[int, float]:
    """What each held dark heater's own probe reads in a winter night while that heater keeps the cool end just above its least.

    By the heater's index; worked out only where the night is too cold.
    """
    if not _short(quantities, "cool_air", "night"):
        return {}
    night = choose(stage.heat.night_c, plan.schools)
    found = {}
    for index, heater in enumerate(plan.heaters):
        kind = HEATERS[heater.kind]
        if kind.light or kind.place not in WARMS_AIR or heater.thermostat.kind == "none":
            continue
        own = case.heaters[index]
        holding = replace(own, on_hour=0.0, off_hour=0.0, night_set_c=None, set_c=night.least + HELD_ABOVE_K)
        holding = replace(holding, probe="cool-air", probe_error_k=0.0)
        heaters = (*case.heaters[:index], holding, *case.heaters[index + 1 :])
        held = solve_steady(replace(case, heaters=heaters), spread=False, seasons=("winter",), near=climate).states[
            "winter", "night"
        ]
        read_c = float(probe_row(case, nodes_of(case), own) @ held.node_c) + own.probe_error_k
        in_air = own.probe in ("warm-air", "cool-air")
        found[index] = round(min(read_c, night.high) if in_air and night.high is not None else read_c, 1)
    return found


def rooms_wanted(case: EnclosureCase, quantities: tuple[Quantity, ...], climate: Climate) -> dict[str, float]:
    """For each air that is too hot, by id, the room temperature (°C) at which it would come down into its band: no heater cools.

    A thermostat gives back part of what a cooler room takes, so the inside follows less than degree by degree: one more
    solve for each season and phase, cooler by what is most over, tells how much, and the rest is a straight line.
    `climate` is what the case comes to.
    """
    over: dict[tuple[str, str], list[tuple[Quantity, float, float]]] = {}
    for item in quantities:
        if item.key not in AIRS or item.verdict not in OFF or item.value is None or item.band is None or item.band.high is None:
            continue
        if item.value > item.band.high:
            over.setdefault((item.season, item.phase), []).append((item, item.value, item.value - item.band.high))
    found = {}
    for (season, phase), items in over.items():
        room = case.rooms[season]
        now_c = room.day_c if phase == "day" else room.night_c
        down_k = max(beyond for _item, _value, beyond in items) + FURTHER_K
        cooler = replace(case, rooms={season: replace(room, **{f"{phase}_c": now_c - down_k}, curve_c=())})
        inside_c = predict(cooler, season, climate)[phase]
        for item, value_c, beyond in items:
            slope = (value_c - inside_c[item.key]) / down_k
            found[item.id] = now_c - beyond / min(max(slope, LEAST_SLOPE), 1.0)
    return found
