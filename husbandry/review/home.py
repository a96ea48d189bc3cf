"""Rules of space, ground, moisture, hides and water."""

from collections.abc import Iterator
from typing import Final

from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy, Severity, Verdict
from husbandry.codes import FindingCode, RemedyCode
from husbandry.review.facts import Facts
from husbandry.review.judged import BAD, OFF, SEVERITY, below, by_season, named
from husbandry.units import TOLERANCE_M

LITTER_M: Final = 0.02
SPACE: Final = ("enclosure_length", "enclosure_width", "enclosure_height", "enclosure_stretch", "floor_area")


def too_small(facts: Facts) -> Iterator[Finding]:
    """The enclosure against the minimum; the remedy takes the whole minimum at once."""
    short = [item for key in SPACE for item in facts.of(key) if item.verdict in OFF and item.band is not None]
    if short and facts.box.sides_needed is not None:
        parameters: dict[str, Parameter] = {**named(short[0]), "animals": facts.company.animals}
        now = (max(facts.box.length_m, facts.box.width_m), min(facts.box.length_m, facts.box.width_m), facts.box.height_m)
        changes = []
        for side, wanted, have in zip(("length", "width", "height"), facts.box.sides_needed, now, strict=True):
            parameters[side] = Measure(max(wanted, have), "m")
            if have < wanted - TOLERANCE_M:
                changes.append(Change(f"enclosure.{side}_m", round(wanted + 0.0049, 2)))
        if facts.box.enough_by:
            topic, _colon, school = facts.box.enough_by.partition(":")
            told: dict[str, Parameter] = parameters | {"school": facts.box.enough_by}
            go_by = Change(f"schools.{topic}", school)
            remedy = Remedy(RemedyCode.SPACE_GO_BY, told, (go_by,))
            yield Finding(FindingCode.SPACE_SMALL_BY_SCHOOL, Severity.ADVICE, "enclosure", told, remedy)
            return
        remedy = Remedy(RemedyCode.SPACE_TAKE_MINIMUM, parameters, tuple(changes))
        severity = Severity.WRONG if any(item.verdict is Verdict.OUTSIDE for item in short) else Severity.ADVICE
        yield Finding(FindingCode.SPACE_TOO_SMALL, severity, "enclosure", parameters, remedy)
    elif facts.box.outgrown is not None:
        day, sides = facts.box.outgrown
        parameters = {"day": day}
        parameters |= {side: Measure(size, "m") for side, size in zip(("length", "width", "height"), sides, strict=True)}
        yield Finding(
            FindingCode.SPACE_OUTGROWN_SOON,
            Severity.ADVICE,
            "enclosure",
            parameters,
            Remedy(RemedyCode.SPACE_PLAN_NEXT, parameters),
        )


def water(facts: Facts) -> Iterator[Finding]:
    """The water an animal lives in: there at all, enough, deep enough, neither too warm nor too cold."""
    if facts.water.wanted and not facts.water.there:
        yield Finding(FindingCode.WATER_NONE, Severity.WRONG, "moisture")
    for item in facts.of("water_volume"):
        if item.verdict in OFF and facts.water.there:
            yield Finding(FindingCode.WATER_TOO_LITTLE, SEVERITY[item.verdict], "moisture", named(item), about=item.id)
    for item in facts.of("water_depth"):
        if item.verdict in OFF:
            wanted = facts.water.depth_middle_m or 0.0
            remedy = Remedy(
                RemedyCode.WATER_SET_DEPTH, {"depth": Measure(wanted, "m")}, (Change("pool.depth_m", round(wanted, 3)),)
            )
            code = FindingCode.WATER_SHALLOW if below(item) else FindingCode.WATER_DEEP
            yield Finding(code, SEVERITY[item.verdict], "moisture", named(item), remedy)
    off = [item for item in facts.of("water_temperature") if item.verdict in OFF]
    for cold, code in ((True, FindingCode.WATER_COLD), (False, FindingCode.WATER_WARM)):
        for worst in by_season(item for item in off if below(item) is cold):
            yield Finding(code, SEVERITY[worst.verdict], "heat", named(worst), None, worst.season, worst.id)


def water_changes(facts: Facts) -> Iterator[Finding]:
    """What builds up between changes: more often, or a filter."""
    for key, code in (("nitrate", FindingCode.WATER_NITRATE), ("ammonia", FindingCode.WATER_AMMONIA)):
        for item in facts.of(key):
            if item.verdict not in OFF or item.value is None or item.band is None or item.band.high is None:
                continue
            days = item.reason.parameters.get("days")
            if not isinstance(days, int):
                continue
            wanted = int(days * item.band.high / item.value)
            if wanted >= 1:
                change = Change("upkeep.every_days.water-change", wanted)
                remedy = Remedy(RemedyCode.WATER_CHANGE, {"days": wanted}, (change,))
            else:
                remedy = Remedy(RemedyCode.WATER_FILTER, {}, (Change("pool.filtered", True),) if key == "ammonia" else ())
            severity = Severity.ADVICE if key == "nitrate" else SEVERITY[item.verdict]
            yield Finding(code, severity, "moisture", named(item), remedy, about=item.id)


def filter_and_mister(facts: Facts) -> Iterator[Finding]:
    """A filter that does not work yet, or moves too little or too much; a reservoir that does not last a weekend."""
    for item in facts.of("filter_age"):
        if item.verdict in OFF:
            yield Finding(FindingCode.WATER_FILTER_YOUNG, SEVERITY[item.verdict], "moisture", named(item))
    for item in facts.of("filter_turnover"):
        if item.verdict in BAD:
            code = FindingCode.WATER_FILTER_SLOW if below(item) else FindingCode.WATER_FILTER_FAST
            yield Finding(code, Severity.ADVICE, "moisture", named(item))
    for item in facts.of("reservoir"):
        if item.verdict in BAD:
            yield Finding(FindingCode.WATER_RESERVOIR, Severity.ADVICE, "moisture", named(item))


def sun(facts: Facts) -> Iterator[Finding]:
    """Direct sun through glass: how hot it would be in there on a clear summer day, heaters off or on."""
    if facts.heat.sun_watts <= 0:
        return
    told: dict[str, Parameter] = {"watts": Measure(facts.heat.sun_watts, "W"), "value": Measure(facts.heat.sun_hottest_c, "degC")}
    deadly = facts.heat.ceiling_c is not None and facts.heat.sun_hottest_c > facts.heat.ceiling_c
    code = FindingCode.ROOM_SUN_KILLS if deadly else FindingCode.ROOM_SUN
    severity = Severity.DANGER if deadly else Severity.WRONG
    yield Finding(code, severity, "room", told, Remedy(RemedyCode.ROOM_OUT_OF_SUN, {}, (Change("window", None),)))


def ground_depth(facts: Facts) -> Iterator[Finding]:
    item = facts.of("ground_depth")[0]
    if item.verdict in OFF and item.band is not None:
        code = FindingCode.GROUND_SHALLOW if below(item) else FindingCode.GROUND_DEEP
        depth = {"depth": Measure(facts.ground.wanted_m, "m")}
        remedy = Remedy(RemedyCode.GROUND_SET_DEPTH, depth, facts.ground.deeper)
        if facts.ground.laid and below(item):
            remedy = Remedy(RemedyCode.GROUND_LAY, {**depth, "kind": facts.ground.laid}, facts.ground.deeper)
        severity = Severity.ADVICE if item.verdict is Verdict.NEAR else Severity.WRONG
        yield Finding(code, severity, "ground", named(item), remedy)


def living_ground(facts: Facts) -> Iterator[Finding]:
    """A clean-up crew lives in damp ground and on leaf litter."""
    if not facts.ground.living:
        return
    if not facts.ground.damp:
        remedy = Remedy(RemedyCode.MOISTURE_DAMP_GROUND, {}, (Change("ground.layers.0.damp", True),))
        yield Finding(FindingCode.GROUND_CREW_DRY, Severity.ADVICE, "ground", {}, remedy)
    if not facts.ground.litter:
        litter = {"parts": [{"material": "leaf-litter", "parts": 1.0}], "depth_m": LITTER_M}
        remedy = Remedy(RemedyCode.GROUND_LITTER, {}, (Change(f"ground.layers.{facts.ground.layers}", litter),))
        yield Finding(FindingCode.GROUND_CREW_HUNGRY, Severity.ADVICE, "ground", {}, remedy)


def humidity(facts: Facts) -> Iterator[Finding]:
    """The cool end's humidity: too dry or too wet, one finding for each season."""
    items = facts.of("cool_humidity")
    dry = [item for item in items if item.verdict in OFF and below(item)]
    wet = [item for item in items if item.verdict in OFF and not below(item)]
    for worst in by_season(dry):
        yield Finding(FindingCode.MOISTURE_DRY, SEVERITY[worst.verdict], "moisture", named(worst), None, worst.season, worst.id)
    for worst in by_season(wet):
        yield Finding(FindingCode.MOISTURE_WET, SEVERITY[worst.verdict], "moisture", named(worst), None, worst.season, worst.id)


def humid_hide(facts: Facts) -> Iterator[Finding]:
    """The air in the damp hide: the moss and the hide's holes set it."""
    off = [item for item in facts.of("humid_hide") if item.verdict in BAD]
    for found, code in (
        ([item for item in off if below(item)], FindingCode.MOISTURE_HIDE_DRY),
        ([item for item in off if not below(item)], FindingCode.MOISTURE_HIDE_WET),
    ):
        for worst in by_season(found):
            remedy = Remedy(RemedyCode.MOISTURE_WET_MOSS if code == FindingCode.MOISTURE_HIDE_DRY else RemedyCode.MOISTURE_DRY_MOSS)
            yield Finding(code, Severity.ADVICE, "moisture", named(worst), remedy, worst.season)


def hides_and_water(facts: Facts) -> Iterator[Finding]:
    """A hide for every place the species needs one; water always."""
    here = facts.shelter
    if here.humid_missing:
        yield Finding(FindingCode.MOISTURE_NO_HUMID_HIDE, Severity.WRONG, "moisture")
    missing = sum(here.missing.values())
    if missing > (1 if here.humid_missing and here.missing.get("hide") else 0):
        parameters: dict[str, Parameter] = {
            "have": len(here.wanted) - missing,
            "want": len(here.wanted),
            "names": ", ".join(here.wanted),
        }
        yield Finding(FindingCode.SPACE_HIDES, Severity.WRONG, "furniture", parameters)
    if not facts.shelter.has_bowl and not facts.water.wanted:
        yield Finding(FindingCode.MOISTURE_NO_BOWL, Severity.WRONG, "moisture")
