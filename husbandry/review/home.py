"""Rules of space, ground, moisture, hides and water."""

from collections.abc import Iterator, Mapping
from typing import Any, Final

from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy, Severity, Verdict
from husbandry.review.facts import Facts
from husbandry.review.judged import BAD, OFF, SEVERITY, below, by_season, named

SPACE: Final = ("enclosure_length", "enclosure_width", "enclosure_height", "enclosure_stretch", "floor_area")


def too_small(facts: Facts) -> Iterator[Finding]:
    """The enclosure against the minimum; the remedy takes the whole minimum at once."""
    short = [item for key in SPACE for item in facts.of(key) if item.verdict in OFF and item.band is not None]
    if short and facts.sides_needed is not None:
        parameters: dict[str, Parameter] = {**named(short[0]), "animals": facts.company.animals}
        now = (max(facts.length_m, facts.width_m), min(facts.length_m, facts.width_m), facts.height_m)
        changes = []
        for side, wanted, have in zip(("length", "width", "height"), facts.sides_needed, now, strict=True):
            parameters[side] = Measure(max(wanted, have), "m")
            if have < wanted - 0.001:
                changes.append(Change(f"enclosure.{side}_m", round(wanted + 0.0049, 2)))
        remedy = Remedy("space.take_minimum", parameters, tuple(changes))
        severity = Severity.WRONG if any(item.verdict is Verdict.OUTSIDE for item in short) else Severity.ADVICE
        yield Finding("space.too_small", severity, "enclosure", parameters, remedy)
    elif facts.outgrown is not None:
        day, sides = facts.outgrown
        parameters = {"day": day}
        parameters |= {side: Measure(size, "m") for side, size in zip(("length", "width", "height"), sides, strict=True)}
        yield Finding("space.outgrown_soon", Severity.ADVICE, "enclosure", parameters, Remedy("space.plan_next", parameters))


def water(facts: Facts) -> Iterator[Finding]:
    """The water an animal lives in: there at all, enough, deep enough, neither too warm nor too cold."""
    if facts.water.wanted and not facts.water.there:
        change = () if facts.water.new_pool is None else (Change("pool", dict(facts.water.new_pool)),)
        yield Finding("water.none", Severity.WRONG, "moisture", {}, Remedy("water.fill", {}, change))
    for item in facts.of("water_volume"):
        if item.verdict in OFF and facts.water.there:
            depth_m = facts.water.depth_for_volume_m
            remedy = Remedy("water.larger")
            if depth_m is not None:
                remedy = Remedy("water.deeper", {"depth": Measure(depth_m, "m")}, (Change("pool.depth_m", depth_m),))
            yield Finding("water.too_little", SEVERITY[item.verdict], "moisture", named(item), remedy)
    for item in facts.of("water_depth"):
        if item.verdict in OFF:
            wanted = facts.water.depth_middle_m or 0.0
            remedy = Remedy("water.set_depth", {"depth": Measure(wanted, "m")}, (Change("pool.depth_m", round(wanted, 3)),))
            code = "water.shallow" if below(item) else "water.deep"
            yield Finding(code, SEVERITY[item.verdict], "moisture", named(item), remedy)
    off = [item for item in facts.of("water_temperature") if item.verdict in OFF]
    for cold, code, cure in ((True, "water.cold", facts.water.warmer), (False, "water.warm", facts.water.cooler)):
        remedy = Remedy("water.heat" if cold else "water.cool") if cure is None else _cured(*cure)
        for worst in by_season(item for item in off if below(item) is cold):
            yield Finding(code, SEVERITY[worst.verdict], "heat", named(worst), remedy, worst.season)


def _cured(kind: str, path: str, value: Any, watts: float, set_c: float) -> Remedy:
    """Another heater or chiller in the water, another set point, or a fan over it."""
    if kind == "fan":
        return Remedy("water.fan", {}, (Change(path, value),))
    told: dict[str, Parameter] = {"watts": Measure(watts, "W"), "set": Measure(set_c, "degC")}
    change = (Change(path, value),)
    if kind == "set":
        return Remedy("water.set", told, change)
    return Remedy("water.add_heater" if kind == "heater" else "water.add_chiller", told, change)


def sun(facts: Facts) -> Iterator[Finding]:
    """Direct sun through glass: how hot it would be in there on a clear summer day, heaters off or on."""
    if facts.sun_watts <= 0:
        return
    told: dict[str, Parameter] = {"watts": Measure(facts.sun_watts, "W"), "value": Measure(facts.sun_hottest_c, "degC")}
    deadly = facts.ceiling_c is not None and facts.sun_hottest_c > facts.ceiling_c
    code = "room.sun_kills" if deadly else "room.sun"
    severity = Severity.DANGER if deadly else Severity.WRONG
    yield Finding(code, severity, "room", told, Remedy("room.out_of_sun", {}, (Change("window", None),)))


def ground_depth(facts: Facts) -> Iterator[Finding]:
    item = facts.of("ground_depth")[0]
    if item.verdict in OFF and item.band is not None:
        code = "ground.shallow" if below(item) else "ground.deep"
        remedy = Remedy(
            "ground.set_depth", {"depth": Measure(facts.ground_wanted_m, "m")}, (Change("ground.depth_m", facts.ground_wanted_m),)
        )
        severity = Severity.ADVICE if item.verdict is Verdict.NEAR else Severity.WRONG
        yield Finding(code, severity, "enclosure", named(item), remedy)


def humidity(facts: Facts) -> Iterator[Finding]:
    """The cool end's humidity: too dry or too wet, one finding for each season."""
    items = facts.of("cool_humidity")
    dry = [item for item in items if item.verdict in OFF and below(item)]
    wet = [item for item in items if item.verdict in OFF and not below(item)]
    for worst in by_season(dry):
        remedy = Remedy("moisture.air_less")
        right, now = facts.misting_right_g.get(worst.season), facts.misting[worst.season]["grams_per_day"]
        if right is not None and right > now:
            remedy = _mist(facts, worst.season, right)
        elif not facts.ground_damp:
            remedy = Remedy("moisture.damp_ground", {}, (Change("ground.damp", True),))
        yield Finding("moisture.dry", SEVERITY[worst.verdict], "moisture", named(worst), remedy, worst.season)
    for worst in by_season(wet):
        own = facts.room_at_cool_end.get(f"{worst.season}/{worst.moment}", 0.0)
        air = "moisture.air_a_little" if worst.verdict is Verdict.NEAR else "moisture.air_more"
        soaked = worst.band is not None and worst.band.high is not None and own >= worst.band.high
        remedy = Remedy("moisture.dry_the_room", {"room": Measure(own, "%")}) if soaked else Remedy(air)
        right, now = facts.misting_right_g.get(worst.season), facts.misting[worst.season]["grams_per_day"]
        if now > 0 and (right is None or right < now):
            remedy = _mist(facts, worst.season, right or 0.0)
        elif facts.ground_damp:
            remedy = Remedy("moisture.dry_ground", {}, (Change("ground.damp", False),))
        yield Finding("moisture.wet", SEVERITY[worst.verdict], "moisture", named(worst), remedy, worst.season)


def humid_hide(facts: Facts) -> Iterator[Finding]:
    """The air in the damp hide: the moss and the hide's holes set it."""
    off = [item for item in facts.of("humid_hide") if item.verdict in BAD]
    for found, code in (
        ([item for item in off if below(item)], "moisture.hide_dry"),
        ([item for item in off if not below(item)], "moisture.hide_wet"),
    ):
        for worst in by_season(found):
            remedy = Remedy("moisture.wet_moss" if code == "moisture.hide_dry" else "moisture.dry_moss")
            yield Finding(code, Severity.ADVICE, "moisture", named(worst), remedy, worst.season)


def _mist(facts: Facts, season: str, grams: float) -> Remedy:
    """Another amount in one season; the other keeps its own."""
    change = misted(facts.misting, season, grams)
    return Remedy("moisture.mist" if grams else "moisture.mist_stop", {"grams": round(grams), "season": season}, (change,))


def misted(misting: Mapping[str, Mapping[str, Any]], season: str, grams: float) -> Change:
    """The change of a plan that gives so much by hand in one season; `misting` is what is given in each now."""
    summer, winter = (dict(misting[name]) for name in ("summer", "winter"))
    (summer if season == "summer" else winter)["grams_per_day"] = grams
    return Change("misting", summer | {"winter": None if summer == winter else winter})


def hides_and_water(facts: Facts) -> Iterator[Finding]:
    """A hide for every place the species needs one; water always."""
    humid_wanted = any("humid" in name or "damp" in name for name in facts.hides_wanted)
    humid_missing = humid_wanted and facts.humid_hides == 0
    if humid_missing:
        hide = _hide(facts, "humid")
        remedy = Remedy("moisture.add_humid_hide", {}, (Change(f"hides.{facts.hides}", hide),))
        yield Finding("moisture.no_humid_hide", Severity.WRONG, "moisture", {}, remedy)
    wanted = len(facts.hides_wanted)
    if facts.hides + (1 if humid_missing else 0) < wanted:
        end = "cool" if facts.hides % 2 == 0 else "warm"
        remedy = Remedy("space.add_hide", {}, (Change(f"hides.{facts.hides}", _hide(facts, end)),))
        parameters: dict[str, Parameter] = {"have": facts.hides, "want": wanted, "names": ", ".join(facts.hides_wanted)}
        yield Finding("space.hides", Severity.WRONG, "enclosure", parameters, remedy)
    if not facts.has_bowl and not facts.water.wanted:
        bowl = {"x_m": round(facts.bowl_place[0], 3), "diameter_m": round(facts.bowl_place[1], 3)}
        yield Finding("moisture.no_bowl", Severity.WRONG, "moisture", {}, Remedy("moisture.add_bowl", {}, (Change("bowl", bowl),)))


def _hide(facts: Facts, end: str) -> dict[str, Any]:
    size = round(facts.hide_length_m, 2)
    place = round(facts.hide_places[end], 3)
    return {"x_m": place, "length_m": size, "height_m": round(max(0.5 * size, 0.05), 2), "humid": end == "humid"}
