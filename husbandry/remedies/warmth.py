"""What mends warmth: the lamps over the basking spot held, hung and exchanged; more heat without light; a cooler room."""

from typing import Any, Final

from husbandry.assessment import Change, Finding, Measure, Parameter, Quantity, Remedy
from husbandry.codes import FindingCode, RemedyCode
from husbandry.remedies.heating import MOST_HEATERS, STRENGTHS_W, dark_kind
from husbandry.remedies.situation import Situation
from husbandry.review.facts import Facts, HeaterFacts
from husbandry.review.judged import OFF, below, miss
from husbandry.review.warmth import NIGHT_MARGIN_K
from husbandry.species.leaves import choose

FAIR_PART: Final = 0.34  # of what is missing
IDLE_W: Final = 0.5
WARM_END_MORE_K: Final = 1.0  # a heated warm end over the cool end, by night
SAME_SET_POINT_K: Final = 0.11
TARGET_LEAST_C: Final = 5.0  # a set point the document still takes


def basking(at: Situation, finding: Finding) -> Remedy | None:
    """For a spot too hot or too cold by day."""
    worst = at.about(finding)
    if not below(worst) and not _heated(at.facts, worst):
        return _cool_the_room(at, worst)
    lamps = tuple(item for item in at.facts.heaters if item.warms_spot)
    if below(worst):
        # What holds the air without light is no lamp for the spot, even where nothing else shines on it.
        lamps = tuple(item for item in lamps if item.probe == "basking-surface" or not item.dark_and_held)
    return _basking(at.facts, lamps, cold=below(worst))


def _basking(facts: Facts, lamps: tuple[HeaterFacts, ...], *, cold: bool) -> Remedy | None:
    """What brings the spot to its middle: lamps that warm it as one are held, hung and exchanged together."""
    middle_c = facts.heat.basking_middle_c
    if middle_c is None:
        return None
    wanted: dict[str, Parameter] = {"wanted": Measure(middle_c, "degC")}
    if not lamps:
        return Remedy(RemedyCode.HEAT_ADD_BASKING_HEATER, wanted) if cold else Remedy(RemedyCode.HEAT_LESS_HEAT)
    heater = lamps[0]
    paths = [f"heaters.{item.index}" for item in lamps]
    if not cold and heater.control == "none" and heater.suited_controls != ("none",):
        control = heater.suited_controls[0]
        held = {"kind": control, "set_c": middle_c, "probe": "basking-surface"}
        changes = tuple(Change(f"{path}.thermostat", dict(held)) for path in paths)
        return Remedy(RemedyCode.HEAT_ADD_THERMOSTAT, wanted | {"control": control}, changes)
    if (
        heater.control != "none"
        and heater.probe == "basking-surface"
        and heater.set_c is not None
        and abs(heater.set_c - middle_c) > 1
    ):
        held_at = [f"heaters.{item.index}.thermostat.set_c" for item in lamps if item.control != "none"]
        right = heater.right_height_m
        lower = _hung_at(right, paths) if cold and right is not None and right < heater.height_m else ()
        return Remedy(RemedyCode.HEAT_SET_THERMOSTAT, wanted, (*(Change(path, middle_c) for path in held_at), *lower))
    right = heater.right_height_m
    if right is not None and abs(right - heater.height_m) > 0.004:
        code = RemedyCode.HEAT_HANG_AT if len(lamps) == 1 else RemedyCode.HEAT_HANG_ALL_AT
        return Remedy(code, {"height": Measure(right, "m")}, _hung_at(right, paths))
    return Remedy(RemedyCode.HEAT_STRONGER_LAMP if cold else RemedyCode.HEAT_WEAKER_LAMP, {"watts": Measure(heater.watts, "W")})


def _hung_at(height_m: float, paths: list[str]) -> tuple[Change, ...]:
    return tuple(Change(f"{path}.height_m", round(height_m, 3)) for path in paths)


def air_by_day(at: Situation, finding: Finding) -> Remedy | None:
    """For either end by day."""
    worst, room_c = at.about(finding), finding.parameters.get("room")
    end = worst.key
    if finding.code == FindingCode.HEAT_WARM_AIR_COLD:
        set_c = round(choose(at.stage.heat.warm_air_c, at.plan.schools).middle, 1)
        more = _more_heat(at, "day", set_c, "warm-air")
        if more is not None:
            return more
    if below(worst):
        return Remedy(RemedyCode(f"heat.move_{end}_up"))
    high = worst.band.high if worst.band is not None else None
    hot_room = isinstance(room_c, Measure) and high is not None and room_c.value >= high
    return _cool_the_room(at, worst) if hot_room or not _heated(at.facts, worst) else Remedy(RemedyCode(f"heat.move_{end}_down"))


def night_warm(at: Situation, finding: Finding) -> Remedy | None:
    """For a warm end too warm at night."""
    worst = at.about(finding)
    return Remedy(RemedyCode.HEAT_LESS_NIGHT_HEAT) if _heated(at.facts, worst) else _cool_the_room(at, worst)


def night_cold(at: Situation, _finding: Finding) -> Remedy | None:
    """For a cool end too cold at night: heat without light."""
    set_c = round(at.facts.heat.night_low_c + NIGHT_MARGIN_K, 1)
    return _more_heat(at, "night", set_c, "cool-air") or Remedy(RemedyCode.HEAT_MOVE_COOL_AIR_UP)


def night_warm_end_cold(at: Situation, _finding: Finding) -> Remedy | None:
    """For a warm end too cold at night: where the cool end is too cold as well, what warms that; else heat at the warm end."""
    cool = [item for item in at.facts.of("cool_air", "night") if item.verdict in OFF and below(item)]
    return night_cold(at, _finding) if cool else Remedy(RemedyCode.HEAT_MOVE_WARM_AIR_UP)


def ceiling(at: Situation, finding: Finding) -> Remedy | None:
    """For air hotter than is ever borne."""
    worst = at.about(finding)
    return Remedy(RemedyCode.HEAT_LESS_HEAT) if _heated(at.facts, worst) else _cool_the_room(at, worst)


def _heated(facts: Facts, item: Quantity) -> bool:
    """Tell whether anything warms it then: a heater that its thermostat holds at nothing has nothing to give back."""
    return facts.heat.given_w.get(f"{item.season}/{item.phase}", 0.0) > IDLE_W


def _cool_the_room(at: Situation, item: Quantity) -> Remedy:
    """No heater cools: how cool the room itself must be."""
    room_c = at.rooms_wanted.get(item.id)
    if room_c is None:  # nothing warms it then: the inside follows the room degree by degree
        room_c = at.facts.heat.room_day_c.get(item.season, 0.0) - miss(item)
    return Remedy(RemedyCode.HEAT_COOL_THE_ROOM, {"room": Measure(room_c, "degC")})


def _more_heat(at: Situation, phase: str, set_c: float, probe: str) -> Remedy | None:
    """Heat without light: let the dark heater there is hold more, or be stronger; else add one. None where none can do it."""
    watts, _share = at.dark_watts.get(phase, (None, 0.0))
    held = [item for item in at.facts.heaters if item.dark_and_held]
    if not held:
        return None if watts is None else _added(at, phase, watts, set_c, probe)
    # The one with something left to give, else the last.
    dark = next((item for item in held if not (item.flat_out[phase] and (phase == "day" or item.on_at_night))), held[-1])
    path = f"heaters.{dark.index}"
    runs = phase == "day" or dark.on_at_night
    if runs and dark.flat_out[phase]:
        if watts is None:
            return None
        sizes = [size for size in STRENGTHS_W if dark_kind(size) == dark.kind] or [dark.watts]
        stronger = next((size for size in sizes if size >= dark.watts + watts), sizes[-1])
        if stronger <= dark.watts:
            return _one_more(at, phase, watts, set_c, probe)
        return Remedy(RemedyCode.HEAT_STRONGER_HEATER, {"watts": Measure(stronger, "W")}, (Change(f"{path}.watts", stronger),))
    by_day = dark.set_c
    always = (Change(f"{path}.on", "00:00"), Change(f"{path}.off", "00:00"))
    if phase == "night":
        wanted_c = max(at.night_hold_c.get(dark.index, set_c), TARGET_LEAST_C)
        if runs and dark.night_set_c is not None and abs(dark.night_set_c - wanted_c) < SAME_SET_POINT_K:
            # More would be too warm at the other end: a second one at the cool end.
            return None if watts is None else _one_more(at, phase, watts, set_c, probe)
        changes = (Change(f"{path}.thermostat.night_set_c", round(wanted_c, 1)), *(() if runs else always))
        return Remedy(RemedyCode.HEAT_HOLD_BY_NIGHT, {"kind": dark.kind, "set": Measure(wanted_c, "degC")}, changes)
    if dark.probe == probe and by_day is not None and by_day >= set_c:
        return None
    changes = (Change(f"{path}.thermostat.set_c", set_c), Change(f"{path}.thermostat.probe", probe), *always)
    if dark.probe != probe and dark.night_set_c is None and by_day is not None:
        changes = (*changes, Change(f"{path}.thermostat.night_set_c", round(by_day + WARM_END_MORE_K, 1)))
    return Remedy(RemedyCode.HEAT_HOLD_BY_DAY, {"kind": dark.kind, "set": Measure(set_c, "degC")}, changes)


def _one_more(at: Situation, phase: str, watts: float, set_c: float, probe: str) -> Remedy | None:
    """A further heater, where it brings a fair part of what is missing and the plan has room for it."""
    if len(at.facts.heaters) >= MOST_HEATERS or at.dark_watts.get(phase, (0.0, 0.0))[1] < FAIR_PART:
        return None
    return _added(at, phase, watts, set_c, probe)


def _added(at: Situation, phase: str, watts: float, set_c: float, probe: str) -> Remedy:
    told: dict[str, Parameter] = {"set": Measure(set_c, "degC"), "watts": Measure(watts, "W"), "kind": dark_kind(watts)}
    change = Change(f"heaters.{len(at.facts.heaters)}", _dark_heater(at, phase, watts, set_c, probe))
    return Remedy(RemedyCode(f"heat.add_{phase}_heater"), told, (change,))


def _dark_heater(at: Situation, phase: str, watts: float, set_c: float, probe: str) -> dict[str, Any]:
    kind = dark_kind(watts)
    return {
        "kind": kind,
        "watts": watts,
        **at.place_for(phase).fields(at.plan, kind),
        "on": "00:00" if probe == "cool-air" else at.facts.light.on,
        "off": "00:00" if probe == "cool-air" else at.facts.light.off,
        "guarded": True,
        "thermostat": {"kind": "pulse", "set_c": set_c, "probe": probe},
    }
