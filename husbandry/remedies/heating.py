"""More heat without light: where a further heater would hang, how strong it must be, what the one there would have to hold."""

import math
from bisect import bisect_left
from dataclasses import replace
from typing import Final

from husbandry.assessment import Quantity
from husbandry.climate.case import EnclosureCase, HeaterCase
from husbandry.climate.heaters import HEATERS
from husbandry.climate.nodes import nodes_of
from husbandry.climate.probes import probe_row, warm_side_x
from husbandry.climate.states import Climate
from husbandry.climate.steady import predict, solve_steady
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.geometry import highest_under_m, y_of
from husbandry.plan.habitat import ABOVE_LID_M, HabitatPlan
from husbandry.review.facts import WARMS_AIR
from husbandry.review.judged import OFF, below
from husbandry.space.furniture import free_place
from husbandry.species.leaves import choose
from husbandry.species.stage import Stage
from husbandry.wiring.cables import hot_at

STRENGTHS_W: Final = (25.0, 40.0, 60.0, 100.0, 150.0, 240.0, 360.0)  # the sizes dark heaters come in (trade)
STRONGEST_CERAMIC_W: Final = 150.0  # what a lampholder carries; above that a guarded tube heater
MOST_HEATERS: Final = 8  # a plan holds no more
AIRS = ("warm_air", "cool_air", "hottest_air")
FURTHER_K = 0.5  # beyond the first guess, where the one further solve is made
LEAST_SLOPE = 0.25  # of the inside over the room, where thermostats give back nearly all
SOUNDED = 2  # of the usual strengths, the one whose effect is worked out first
HELD_ABOVE_K = 0.5  # the cool end over its night low
NEW_HEATER_PLACES = {"day": (0.35, 0.5, 0.65, 0.8), "night": (0.55, 0.75, 0.9, 0.35)}
TALL_FROM, TALL_AT = 1.0, 1.4  # its height over its length: between them it grows tall without a jump
TALL_SHARES = {"day": 0.55, "night": 0.4}  # of a tall enclosure's height
BESIDE_BOWL_M = 0.04  # across the axis of the heater: so far from the bowl's rim on either side, halved
LAMPS_APART_M: Final = 0.2  # from the middle of one lamp's face to another's: so that both domes fit and neither heats the other
EDGE_M: Final = 0.07  # of a lamp's middle from the glass
NEW_HEATER_GAP_M = 0.25  # along the length; above what lies there


def dark_kind(watts: float) -> str:
    """The usual heater without light of this strength: a ceramic emitter, and above what its holder carries a tube heater."""
    return "ceramic-emitter" if watts <= STRONGEST_CERAMIC_W else "tube-heater"


def new_heater_places(plan: HabitatPlan) -> dict[str, tuple[float, float]]:
    """A place for a further dark heater: near a solid lid, on a mesh, or well above an open table.

    The first stands off the warm end; by day the next go along from it, by night to the cool end.
    """
    box = plan.enclosure
    limit = box.height_m if box.lid == "solid" else box.height_m + ABOVE_LID_M
    usual = box.height_m if box.lid == "mesh" else 0.85 * box.height_m
    warm_left = warm_side_x(enclosure_case(plan)) <= box.length_m / 2
    dark = sum(not HEATERS[heater.kind].light for heater in plan.heaters)
    found = {}
    tall = min(max((box.height_m / max(box.length_m, box.width_m) - TALL_FROM) / (TALL_AT - TALL_FROM), 0.0), 1.0)
    for phase, shares in NEW_HEATER_PLACES.items():
        share = shares[min(dark, len(shares) - 1)]
        x_m = round(beside_bowl(plan, (share if warm_left else 1 - share) * box.length_m), 2)
        # Warm air rises and stays up: in a tall enclosure heat for the cool end hangs low.
        wanted = usual + tall * (TALL_SHARES[phase] * box.height_m - usual)
        found[phase] = x_m, round(min(max(wanted, highest_under_m(plan, x_m) + NEW_HEATER_GAP_M), limit), 2)
    return found


def beside_lamps(plan: HabitatPlan, kind: str, x_m: float, height_m: float) -> dict[str, float]:
    """Where from front to back a further lamp hangs clear of those there are, nearest to midway: `y_m`, nothing where midway is.

    Where it is clear nowhere it hangs as far from the nearest as it can. A kind that does not hang over the floor needs none.
    """
    if HEATERS[kind].place != "over":
        return {}
    there = [(lamp.x_m, y_of(plan, lamp), lamp.height_m) for lamp in plan.heaters if lamp.hangs]
    middle_m, most_m = plan.enclosure.width_m / 2, plan.enclosure.width_m / 2 - EDGE_M
    steps = [sign * step / 100 for step in range(max(math.floor(100 * most_m), 0) + 1) for sign in (1, -1)]

    def apart_m(step_m: float) -> float:
        """To the nearest lamp, as far as it matters."""
        near = (math.dist((x_m, middle_m + step_m, height_m), lamp) for lamp in there)
        return min(round(min(near, default=LAMPS_APART_M), 3), LAMPS_APART_M)

    # Out of every beam before far from every face; the first of equal ones is the nearest to midway.
    best_m = max(steps, key=lambda step_m: (not hot_at(plan, (x_m, middle_m + step_m, height_m)), apart_m(step_m)))
    return {"y_m": round(middle_m + best_m, 2)} if best_m else {}


def beside_bowl(plan: HabitatPlan, x_m: float) -> float:
    """The nearest place (m from the left) that is not over the bowl: warm water is foul and soon gone."""
    if plan.bowl is None or abs(plan.bowl.x_m - x_m) > plan.bowl.diameter_m / 2:
        return x_m
    return free_place(((plan.bowl.x_m, plan.bowl.diameter_m),), plan.enclosure.length_m, BESIDE_BOWL_M, x_m)


def dark_watts(
    plan: HabitatPlan, stage: Stage, case: EnclosureCase, quantities: tuple[Quantity, ...], climate: Climate
) -> dict[str, tuple[float, float]]:
    """The weakest usual dark heater that holds the night low, or the warm end by day, in a winter room.

    Worked out only where one is short; the strongest where none suffices. Watts, and the share of what is missing that they bring.
    """
    found: dict[str, tuple[float, float]] = {}
    places = new_heater_places(plan)
    night = choose(stage.heat.night_c, plan.schools)
    wanted = {
        "night": ("cool_air", night.least),
        "day": ("warm_air", choose(stage.heat.warm_air_c, plan.schools).middle),
    }
    for phase, (key, target_c) in wanted.items():
        if _short(quantities, key, phase):
            now_c = min((item.value or 0.0 for item in quantities if item.key == key and item.phase == phase), default=target_c)
            found[phase] = weakest(case, climate, places[phase], (key, phase, target_c), now_c)
    return found


def weakest(
    case: EnclosureCase, climate: Climate, place: tuple[float, float], wanted: tuple[str, str, float], now_c: float
) -> tuple[float, float]:
    """The weakest usual dark heater at a `place` (x and height, m) that brings an air to what is `wanted` in a winter room.

    `wanted` are the air's key, "day" or "night", and °C; `now_c` is what it has. Watts, and the share of what is missing that they
    bring: the strongest where none suffices.
    """
    key, phase, target_c = wanted
    tried: dict[float, float] = {}

    def gained_k(watts: float) -> float:
        if watts not in tried:
            kind = dark_kind(watts)
            added = HeaterCase(kind, watts, *place, HEATERS[kind].half_angle_deg, 0.0, 0.0, length_m=0.6)
            tried[watts] = predict(replace(case, heaters=(*case.heaters, added)), "winter", climate)[phase][key] - now_c
        return tried[watts]

    missing_k = max(target_c - now_c, 0.1)
    # Nearly straight in the watts: from one answer the next guess, until the size below falls short.
    index = SOUNDED
    for _ in STRENGTHS_W:
        got_k = gained_k(STRENGTHS_W[index])
        guess_w = STRENGTHS_W[index] * missing_k / max(got_k, 0.01)
        better = min(bisect_left(STRENGTHS_W, guess_w), len(STRENGTHS_W) - 1)
        if got_k < missing_k:
            better = max(better, min(index + 1, len(STRENGTHS_W) - 1))
        if better == index or (better > index and got_k >= missing_k):
            break
        if better < index and STRENGTHS_W[better] in tried:
            break
        index = better
    watts = STRENGTHS_W[index]
    return watts, gained_k(watts) / missing_k


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
