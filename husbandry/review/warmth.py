"""Rules of heat: basking surface, air by day and night, heaters and what holds them back."""

from collections.abc import Iterator
from typing import Any, Final

from husbandry.assessment import Change, Finding, Measure, Parameter, Quantity, Remedy, Severity, Verdict
from husbandry.review.facts import Facts, HeaterFacts
from husbandry.review.judged import BAD, OFF, SEVERITY, below, by_season, miss, named

CLOSEST_HEATER_M: Final = 0.20  # nearer to what an animal climbs on a lamp burns (trade)
NIGHT_MARGIN_K: Final = 1.5  # held above the night's least, since a probe errs
STRENGTHS_W: Final = (25.0, 40.0, 60.0, 100.0, 150.0, 240.0, 360.0)  # the sizes dark heaters come in (trade)
STRONGEST_CERAMIC_W: Final = 150.0  # what a lampholder carries; above that a guarded tube heater
TUBE_HEATER_M: Final = (0.12, 0.6)  # its height above the ground and its length
FAIR_PART: Final = 0.34  # of what is missing
REACHED: Final = ("over", "air", "water")  # where an animal can touch it
MAT_SET_C: Final = 32.0  # on the mat's face, where nothing else is said (trade)
IDLE_W: Final = 0.5
MOST_HEATERS: Final = 8  # a plan holds no more
WARM_END_MORE_K: Final = 1.0  # a heated warm end over the cool end, by night
SAME_SET_POINT_K: Final = 0.11
TARGET_LEAST_C: Final = 5.0  # a set point the document still takes


def basking_surface(facts: Facts) -> Iterator[Finding]:
    """Too hot or too cold under the lamp by day, one finding for each season."""
    if facts.basking_middle_c is None:
        return
    lamps = tuple(item for item in facts.heaters if item.warms_spot)
    for worst in by_season(item for item in facts.of("basking_surface", "day") if item.verdict in OFF):
        code = "heat.basking_cold" if below(worst) else "heat.basking_hot"
        idle = not below(worst) and not _heated(facts, worst)
        remedy = _cool_the_room(facts, worst) if idle else _basking_remedy(facts, lamps, cold=below(worst))
        yield Finding(code, SEVERITY[worst.verdict], "heat", named(worst), remedy, worst.season)


def _basking_remedy(facts: Facts, lamps: tuple[HeaterFacts, ...], *, cold: bool) -> Remedy | None:
    """What brings the spot to its middle: lamps that warm it as one are held, hung and exchanged together."""
    middle_c = facts.basking_middle_c
    if middle_c is None:
        return None
    wanted: dict[str, Parameter] = {"wanted": Measure(middle_c, "degC")}
    if not lamps:
        return Remedy("heat.add_basking_heater", wanted) if cold else Remedy("heat.less_heat")
    heater = lamps[0]
    paths = [f"heaters.{item.index}" for item in lamps]
    if not cold and heater.control == "none" and heater.suited_controls != ("none",):
        control = heater.suited_controls[0]
        held = {"kind": control, "set_c": middle_c, "probe": "basking-surface"}
        changes = tuple(Change(f"{path}.thermostat", dict(held)) for path in paths)
        return Remedy("heat.add_thermostat", wanted | {"control": control}, changes)
    if (
        heater.control != "none"
        and heater.probe == "basking-surface"
        and heater.set_c is not None
        and abs(heater.set_c - middle_c) > 1
    ):
        held_at = [f"heaters.{item.index}.thermostat.set_c" for item in lamps if item.control != "none"]
        right = heater.right_height_m
        lower = _hung_at(right, paths) if cold and right is not None and right < heater.height_m else ()
        return Remedy("heat.set_thermostat", wanted, (*(Change(path, middle_c) for path in held_at), *lower))
    right = heater.right_height_m
    if right is not None and abs(right - heater.height_m) > 0.004:
        code = "heat.hang_at" if len(lamps) == 1 else "heat.hang_all_at"
        return Remedy(code, {"height": Measure(right, "m")}, _hung_at(right, paths))
    return Remedy("heat.stronger_lamp" if cold else "heat.weaker_lamp", {"watts": Measure(heater.watts, "W")})


def _hung_at(height_m: float, paths: list[str]) -> tuple[Change, ...]:
    return tuple(Change(f"{path}.height_m", round(height_m, 3)) for path in paths)


def air_by_day(facts: Facts) -> Iterator[Finding]:
    """Warm and cool end, one finding for each and each season."""
    for end in ("warm_air", "cool_air"):
        for worst in by_season(item for item in facts.of(end, "day") if item.verdict in OFF):
            code = f"heat.{end}_{'cold' if below(worst) else 'hot'}"
            room_c = facts.room_day_c.get(worst.season)
            parameters = named(worst) | ({"room": Measure(room_c, "degC")} if room_c is not None else {})
            hot_room = not below(worst) and room_c is not None and worst.band is not None and room_c >= (worst.band.high or room_c)
            hot_room = hot_room or (not below(worst) and not _heated(facts, worst))
            remedy = _cool_the_room(facts, worst) if hot_room else Remedy(f"heat.move_{end}_{'up' if below(worst) else 'down'}")
            if code == "heat.warm_air_cold":
                remedy = _more_heat(facts, "day", round(facts.warm_air_middle_c, 1), "warm-air") or remedy
            yield Finding(code, SEVERITY[worst.verdict], "heat", parameters, remedy, worst.season)


def _heated(facts: Facts, item: Quantity) -> bool:
    """Tell whether anything warms it then: a heater that its thermostat holds at nothing has nothing to give back."""
    return facts.heat_w.get(f"{item.season}/{item.moment}", 0.0) > IDLE_W


def _cool_the_room(facts: Facts, item: Quantity) -> Remedy:
    """No heater cools: how cool the room itself must be."""
    room_c = facts.rooms_wanted.get(item.id)
    if room_c is None:  # nothing warms it then: the inside follows the room degree by degree
        room_c = facts.room_day_c.get(item.season, 0.0) - miss(item)
    return Remedy("heat.cool_the_room", {"room": Measure(room_c, "degC")})


def night(facts: Facts) -> Iterator[Finding]:
    """The cool end too cold or the warm end too warm at night; heat without light mends the cold."""
    for worst in by_season(item for item in facts.of("warm_air", "night") if item.verdict in OFF and not below(item)):
        remedy = Remedy("heat.less_night_heat") if _heated(facts, worst) else _cool_the_room(facts, worst)
        yield Finding("heat.night_warm", SEVERITY[worst.verdict], "heat", named(worst), remedy, worst.season)
    set_c = round(facts.night_low_c + NIGHT_MARGIN_K, 1)
    for worst in by_season(item for item in facts.of("cool_air", "night") if item.verdict in OFF and below(item)):
        remedy_cold = _more_heat(facts, "night", set_c, "cool-air") or Remedy("heat.move_cool_air_up")
        yield Finding("heat.night_cold", SEVERITY[worst.verdict], "heat", named(worst), remedy_cold, worst.season)


def _more_heat(facts: Facts, moment: str, set_c: float, probe: str) -> Remedy | None:
    """Heat without light: let the dark heater there is hold more, or be stronger; else add one. None where none can do it."""
    watts = facts.dark_watts.get(moment)
    held = [item for item in facts.heaters if item.dark_and_held]
    if not held:
        return None if watts is None else _added(facts, moment, watts, set_c, probe)
    # The one with something left to give, else the last.
    dark = next((item for item in held if not (item.flat_out[moment] and (moment == "day" or item.on_at_night))), held[-1])
    path = f"heaters.{dark.index}"
    runs = moment == "day" or dark.on_at_night
    if runs and dark.flat_out[moment]:
        if watts is None:
            return None
        sizes = [size for size in STRENGTHS_W if dark_kind(size) == dark.kind] or [dark.watts]
        stronger = next((size for size in sizes if size >= dark.watts + watts), sizes[-1])
        if stronger <= dark.watts:
            return _one_more(facts, moment, watts, set_c, probe)
        return Remedy("heat.stronger_heater", {"watts": Measure(stronger, "W")}, (Change(f"{path}.watts", stronger),))
    by_day = dark.set_c
    always = (Change(f"{path}.on", "00:00"), Change(f"{path}.off", "00:00"))
    if moment == "night":
        wanted_c = max(facts.night_hold_c.get(dark.index, set_c), TARGET_LEAST_C)
        if runs and dark.night_set_c is not None and abs(dark.night_set_c - wanted_c) < SAME_SET_POINT_K:
            # More would be too warm at the other end: a second one at the cool end.
            return None if watts is None else _one_more(facts, moment, watts, set_c, probe)
        changes = (Change(f"{path}.thermostat.night_set_c", round(wanted_c, 1)), *(() if runs else always))
        return Remedy("heat.hold_by_night", {"kind": dark.kind, "set": Measure(wanted_c, "degC")}, changes)
    if dark.probe == probe and by_day is not None and by_day >= set_c:
        return None
    changes = (Change(f"{path}.thermostat.set_c", set_c), Change(f"{path}.thermostat.probe", probe), *always)
    if dark.probe != probe and dark.night_set_c is None and by_day is not None:
        changes = (*changes, Change(f"{path}.thermostat.night_set_c", round(by_day + WARM_END_MORE_K, 1)))
    return Remedy("heat.hold_by_day", {"kind": dark.kind, "set": Measure(set_c, "degC")}, changes)


def _one_more(facts: Facts, moment: str, watts: float, set_c: float, probe: str) -> Remedy | None:
    """A further heater, where it brings a fair part of what is missing and the plan has room for it."""
    if len(facts.heaters) >= MOST_HEATERS or facts.dark_share.get(moment, 0.0) < FAIR_PART:
        return None
    return _added(facts, moment, watts, set_c, probe)


def _added(facts: Facts, moment: str, watts: float, set_c: float, probe: str) -> Remedy:
    told: dict[str, Parameter] = {"set": Measure(set_c, "degC"), "watts": Measure(watts, "W"), "kind": dark_kind(watts)}
    change = Change(f"heaters.{len(facts.heaters)}", _dark_heater(facts, moment, watts, set_c, probe))
    return Remedy(f"heat.add_{moment}_heater", told, (change,))


def _dark_heater(facts: Facts, moment: str, watts: float, set_c: float, probe: str) -> dict[str, Any]:
    kind = dark_kind(watts)
    low, long = TUBE_HEATER_M
    return {
        "kind": kind,
        "watts": watts,
        "x_m": facts.new_heater_places[moment][0],
        "height_m": facts.new_heater_places[moment][1] if kind == "ceramic-emitter" else round(facts.ground_top_m + low, 3),
        **({} if kind == "ceramic-emitter" else {"length_m": round(min(long, 0.5 * facts.length_m), 2)}),
        "on": "00:00" if probe == "cool-air" else facts.daylight_on,
        "off": "00:00" if probe == "cool-air" else facts.daylight_off,
        "guarded": True,
        "thermostat": {"kind": "pulse", "set_c": set_c, "probe": probe},
    }


def dark_kind(watts: float) -> str:
    """The usual heater without light of this strength: a ceramic emitter, and above what its holder carries a tube heater."""
    return "ceramic-emitter" if watts <= STRONGEST_CERAMIC_W else "tube-heater"


def ceiling(facts: Facts) -> Iterator[Finding]:
    """The hottest air anywhere, never to be passed."""
    for worst in by_season(item for item in facts.of("hottest_air") if item.verdict is Verdict.DANGEROUS):
        remedy = Remedy("heat.less_heat") if _heated(facts, worst) else _cool_the_room(facts, worst)
        yield Finding("heat.ceiling", Severity.DANGER, "heat", named(worst), remedy, worst.season)


def thermostats(facts: Facts) -> Iterator[Finding]:
    """Every heater on a thermostat that suits it."""
    for item in facts.heaters:
        path, control = f"heaters.{item.index}.thermostat", item.suited_controls[0]
        told: dict[str, Parameter] = {
            "kind": item.kind,
            "watts": Measure(item.watts, "W"),
            "control": item.control,
            "suited": control,
        }
        if item.control == "none" and item.suited_controls == ("none",):
            continue
        if item.control == "none":
            set_c, probe = _held_at(facts, item)
            change = Change(path, {"kind": control, "set_c": set_c, "probe": probe})
            remedy = Remedy("heat.add_thermostat", {"control": control, "wanted": Measure(set_c, "degC")}, (change,))
            severity = Severity.ADVICE if item.light else Severity.WRONG
            yield Finding("heat.no_thermostat", severity, "heat", told, remedy, str(item.index))
        elif item.control not in item.suited_controls:
            remedy = Remedy("heat.change_thermostat", {"control": control}, (Change(f"{path}.kind", control),))
            yield Finding("heat.wrong_thermostat", Severity.WRONG, "heat", told, remedy, str(item.index))


def _held_at(facts: Facts, item: HeaterFacts) -> tuple[float, str]:
    """The set point and probe that suit a heater without a thermostat."""
    if item.place == "under":
        return MAT_SET_C, "mat"
    if item.place == "water":
        return facts.water_middle_c if facts.water_middle_c is not None else facts.night_low_c, "water"
    if item.warms_spot and facts.basking_middle_c is not None:
        return facts.basking_middle_c, "basking-surface"
    return facts.night_low_c + NIGHT_MARGIN_K, "cool-air"


def mats_and_backs(facts: Facts) -> Iterator[Finding]:
    """A mat too hot under its ground, a back too hot under its lamp."""
    for key, code, remedy in (
        ("mat_contact", "heat.mat_hot", "heat.mat_thermostat"),
        ("back", "heat.back_hot", "heat.two_weaker_lamps"),
    ):
        for worst in by_season(item for item in facts.of(key) if item.verdict in BAD):
            yield Finding(code, SEVERITY[worst.verdict], "heat", named(worst), Remedy(remedy), worst.season)


def holders(facts: Facts) -> Iterator[Finding]:
    """More watts than the lampholder carries."""
    for item in facts.heaters:
        if item.holder_w is not None and item.watts > item.holder_w:
            told: dict[str, Parameter] = {
                "kind": item.kind,
                "watts": Measure(item.watts, "W"),
                "limit": Measure(item.holder_w, "W"),
            }
            change = Change(f"heaters.{item.index}.watts", item.holder_w)
            remedy = Remedy("heat.holder_watts", {"limit": Measure(item.holder_w, "W")}, (change,))
            yield Finding("heat.holder", Severity.DANGER, "heat", told, remedy, str(item.index))


def heater_placing(facts: Facts) -> Iterator[Finding]:
    """Too near to climb under, reachable without a guard, bright at night."""
    for item in facts.heaters:
        path = f"heaters.{item.index}"
        told: dict[str, Parameter] = {"kind": item.kind, "watts": Measure(item.watts, "W"), "gap": Measure(item.gap_m, "m")}
        if item.place == "over" and item.gap_m < CLOSEST_HEATER_M:
            lifted = round(min(item.lowest_height_m + CLOSEST_HEATER_M + 0.005, item.highest_height_m), 3)
            fits = lifted > item.height_m
            remedy = (
                Remedy("heat.hang_at", {"height": Measure(lifted, "m")}, (Change(f"{path}.height_m", lifted),)) if fits else None
            )
            yield Finding("heat.too_close", Severity.DANGER, "heat", told, remedy or Remedy("heat.lower_platform"), str(item.index))
        if item.place in REACHED and item.inside and not item.guarded:
            remedy = Remedy("heat.guard", {}, (Change(f"{path}.guarded", True),))
            yield Finding("heat.unguarded", Severity.WRONG, "heat", told, remedy, str(item.index))
        if item.light and item.on_at_night:
            hours = (Change(f"{path}.on", facts.daylight_on), Change(f"{path}.off", facts.daylight_off))
            remedy = Remedy("heat.only_by_day", {"on": facts.daylight_on, "off": facts.daylight_off}, hours)
            yield Finding("heat.light_at_night", Severity.WRONG, "heat", told, remedy, str(item.index))


def warm_patch(facts: Facts) -> Iterator[Finding]:
    for item in facts.of("warm_patch"):
        if item.verdict in BAD:
            yield Finding("heat.small_patch", Severity.ADVICE, "heat", named(item), Remedy("heat.two_weaker_lamps"))
