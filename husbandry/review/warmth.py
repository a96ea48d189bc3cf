"""Rules of heat: basking surface, air by day and night, heaters and what holds them back."""

from collections.abc import Iterator
from typing import Final

from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy, Severity, Verdict
from husbandry.codes import FindingCode, RemedyCode
from husbandry.review.facts import Facts, HeaterFacts
from husbandry.review.judged import BAD, OFF, SEVERITY, below, by_season, named

CLOSEST_HEATER_M: Final = 0.20  # nearer to what an animal climbs on a lamp burns (trade)
NIGHT_MARGIN_K: Final = 1.5  # held above the night's least, since a probe errs
REACHED: Final = ("over", "air", "water")  # where an animal can touch it
MAT_SET_C: Final = 32.0  # on the mat's face, where nothing else is said (trade)


def basking_surface(facts: Facts) -> Iterator[Finding]:
    """Too hot or too cold under the lamp by day, one finding for each season."""
    if facts.heat.basking_middle_c is None:
        return
    for worst in by_season(item for item in facts.of("basking_surface", "day") if item.verdict in OFF):
        code = FindingCode.HEAT_BASKING_COLD if below(worst) else FindingCode.HEAT_BASKING_HOT
        yield Finding(code, SEVERITY[worst.verdict], "heat", named(worst), None, worst.season, worst.id)


def air_by_day(facts: Facts) -> Iterator[Finding]:
    """Warm and cool end, one finding for each and each season."""
    for end in ("warm_air", "cool_air"):
        for worst in by_season(item for item in facts.of(end, "day") if item.verdict in OFF):
            code = FindingCode(f"heat.{end}_{'cold' if below(worst) else 'hot'}")
            room_c = facts.heat.room_day_c.get(worst.season)
            parameters = named(worst) | ({"room": Measure(room_c, "degC")} if room_c is not None else {})
            yield Finding(code, SEVERITY[worst.verdict], "heat", parameters, None, worst.season, worst.id)


def night(facts: Facts) -> Iterator[Finding]:
    """Either end too cold or too warm at night: a heater at one end leaves the other behind."""
    for key, cold, code in (
        ("warm_air", False, FindingCode.HEAT_NIGHT_WARM),
        ("cool_air", True, FindingCode.HEAT_NIGHT_COLD),
        ("warm_air", True, FindingCode.HEAT_NIGHT_WARM_END_COLD),
        ("cool_air", False, FindingCode.HEAT_NIGHT_COOL_END_WARM),
    ):
        for worst in by_season(item for item in facts.of(key, "night") if item.verdict in OFF and below(item) is cold):
            yield Finding(code, SEVERITY[worst.verdict], "heat", named(worst), None, worst.season, worst.id)


def ceiling(facts: Facts) -> Iterator[Finding]:
    """The hottest air anywhere, never to be passed."""
    for worst in by_season(item for item in facts.of("hottest_air") if item.verdict is Verdict.DANGEROUS):
        yield Finding(FindingCode.HEAT_CEILING, Severity.DANGER, "heat", named(worst), None, worst.season, worst.id)


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
            remedy = Remedy(RemedyCode.HEAT_ADD_THERMOSTAT, {"control": control, "wanted": Measure(set_c, "degC")}, (change,))
            severity = Severity.ADVICE if item.light else Severity.WRONG
            yield Finding(FindingCode.HEAT_NO_THERMOSTAT, severity, "heat", told, remedy, str(item.index))
        elif item.control not in item.suited_controls:
            remedy = Remedy(RemedyCode.HEAT_CHANGE_THERMOSTAT, {"control": control}, (Change(f"{path}.kind", control),))
            yield Finding(FindingCode.HEAT_WRONG_THERMOSTAT, Severity.WRONG, "heat", told, remedy, str(item.index))


def _held_at(facts: Facts, item: HeaterFacts) -> tuple[float, str]:
    """The set point and probe that suit a heater without a thermostat."""
    if item.place == "under":
        return MAT_SET_C, "mat"
    if item.place == "water":
        return facts.heat.water_middle_c if facts.heat.water_middle_c is not None else facts.heat.night_low_c, "water"
    if item.warms_spot and facts.heat.basking_middle_c is not None:
        return facts.heat.basking_middle_c, "basking-surface"
    if not item.on_at_night and facts.heat.warm_air_middle_c is not None:
        return facts.heat.warm_air_middle_c, "warm-air"  # held by what is wanted of a night it would never come on
    return facts.heat.night_low_c + NIGHT_MARGIN_K, "cool-air"


def mats_and_backs(facts: Facts) -> Iterator[Finding]:
    """A mat too hot under its ground, a back too hot under its lamp."""
    for key, code, remedy in (
        ("mat_contact", FindingCode.HEAT_MAT_HOT, RemedyCode.HEAT_MAT_THERMOSTAT),
        ("back", FindingCode.HEAT_BACK_HOT, RemedyCode.HEAT_TWO_WEAKER_LAMPS),
    ):
        for worst in by_season(item for item in facts.of(key) if item.verdict in BAD):
            yield Finding(code, SEVERITY[worst.verdict], "heat", named(worst), Remedy(remedy), worst.season)


def over_mats(facts: Facts) -> Iterator[Finding]:
    """The ground over a mat, where the keeper warms from below: no mat, too cold, too hot."""
    if facts.heat.mat_middle_c is None:
        return
    if not any(item.place == "under" for item in facts.heaters):
        said: dict[str, Parameter] = {"wanted": Measure(facts.heat.mat_middle_c, "degC")}
        yield Finding(FindingCode.HEAT_NO_MAT, Severity.WRONG, "heat", said)
    if facts.heat.basking_middle_c is None:
        for item in facts.heaters:
            if item.warms_spot:
                what: dict[str, Parameter] = {"kind": item.kind, "watts": Measure(item.watts, "W")}
                remedy = Remedy(RemedyCode.HEAT_TAKE_AWAY, what, (Change(f"heaters.{item.index}", None),))
                yield Finding(FindingCode.HEAT_LAMP_TOO, Severity.ADVICE, "heat", what, remedy, str(item.index))
    for worst in by_season(item for item in facts.of("mat_surface", "day") if item.verdict in OFF):
        code = FindingCode.HEAT_OVER_MAT_COLD if below(worst) else FindingCode.HEAT_OVER_MAT_HOT
        yield Finding(code, SEVERITY[worst.verdict], "heat", named(worst), None, worst.season, worst.id)


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
            remedy = Remedy(RemedyCode.HEAT_HOLDER_WATTS, {"limit": Measure(item.holder_w, "W")}, (change,))
            yield Finding(FindingCode.HEAT_HOLDER, Severity.DANGER, "heat", told, remedy, str(item.index))


def heater_placing(facts: Facts) -> Iterator[Finding]:
    """Too near to climb under, reachable without a guard, bright at night."""
    for item in facts.heaters:
        path = f"heaters.{item.index}"
        told: dict[str, Parameter] = {"kind": item.kind, "watts": Measure(item.watts, "W"), "gap": Measure(item.gap_m, "m")}
        if item.place == "over" and item.gap_m < CLOSEST_HEATER_M:
            lifted = round(min(item.lowest_height_m + CLOSEST_HEATER_M + 0.005, item.highest_height_m), 3)
            fits = lifted > item.height_m
            remedy = (
                Remedy(RemedyCode.HEAT_HANG_AT, {"height": Measure(lifted, "m")}, (Change(f"{path}.height_m", lifted),))
                if fits
                else None
            )
            yield Finding(
                FindingCode.HEAT_TOO_CLOSE,
                Severity.DANGER,
                "heat",
                told,
                remedy or Remedy(RemedyCode.HEAT_LOWER_PLATFORM),
                str(item.index),
            )
        if item.place in REACHED and item.inside and not item.guarded:
            remedy = Remedy(RemedyCode.HEAT_GUARD, {}, (Change(f"{path}.guarded", True),))
            yield Finding(FindingCode.HEAT_UNGUARDED, Severity.WRONG, "heat", told, remedy, str(item.index))
        if item.light and item.on_at_night:
            hours = (Change(f"{path}.on", facts.light.on), Change(f"{path}.off", facts.light.off))
            remedy = Remedy(RemedyCode.HEAT_ONLY_BY_DAY, {"on": facts.light.on, "off": facts.light.off}, hours)
            yield Finding(FindingCode.HEAT_LIGHT_AT_NIGHT, Severity.WRONG, "heat", told, remedy, str(item.index))


def warm_patch(facts: Facts) -> Iterator[Finding]:
    for item in facts.of("warm_patch"):
        if item.verdict in BAD:
            yield Finding(
                FindingCode.HEAT_SMALL_PATCH, Severity.ADVICE, "heat", named(item), Remedy(RemedyCode.HEAT_TWO_WEAKER_LAMPS)
            )
