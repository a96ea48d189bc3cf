"""What could mend a finding: what its rule proposes, then what else keepers do about it, the likeliest first; untried."""

from collections.abc import Iterator
from typing import Final

from husbandry.animal.needs import climbs
from husbandry.assess.result import Assessment
from husbandry.assess.warmth import basking_lamps
from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy
from husbandry.climate.heaters import HEATERS
from husbandry.codes import FindingCode, RemedyCode
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.changes import ground_damp, raised
from husbandry.plan.geometry import highest_m
from husbandry.plan.habitat import HabitatPlan
from husbandry.remedies import cold_end, furnishing, side_by_side, ultraviolet, vents
from husbandry.remedies.misting import COVERS, may_be_misted, misted, with_fewer_plants
from husbandry.review.judged import BAD, miss
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile

SHARES_OF_WATTS: Final = (0.75, 0.5, 0.35)  # to try in place of a heater that is too strong
FOAM_M: Final = (0.02, 0.05)  # foam board outside

LONGER: Final = 2  # tubes longer than one that is too weak, that are tried
MOST_MISTED_G: Final = 2000.0
MISTED: Final = (0.6, 0.3, 1.5, 2.5)  # of what is misted, or proposed
LIGHT_SIZES_W: Final = (25.0, 35.0, 50.0, 60.0, 75.0, 100.0, 120.0, 150.0)  # the sizes lamps come in (trade)
HOT: Final = {
    FindingCode.HEAT_CEILING,
    FindingCode.HEAT_BASKING_HOT,
    FindingCode.HEAT_WARM_AIR_HOT,
    FindingCode.HEAT_COOL_AIR_HOT,
    FindingCode.HEAT_NIGHT_WARM,
    FindingCode.HEAT_NIGHT_COOL_END_WARM,
    FindingCode.HEAT_BACK_HOT,
    FindingCode.HEAT_MAT_HOT,
}
COLD: Final = {
    FindingCode.HEAT_BASKING_COLD,
    FindingCode.HEAT_WARM_AIR_COLD,
    FindingCode.HEAT_COOL_AIR_COLD,
    FindingCode.HEAT_NIGHT_COLD,
    FindingCode.HEAT_NIGHT_WARM_END_COLD,
}


# What stands where it should not: somewhere else it may do.
MISPLACED: Final = {
    FindingCode.SPACE_NO_VIEW,
    FindingCode.SPACE_IN_POOL,
    FindingCode.SPACE_OVERLAP,
    FindingCode.SPACE_OVERLAP_ALIKE,
    FindingCode.SPACE_HIDE_UNDER_LAMP,
    FindingCode.SPACE_NO_WARM_HIDE,
    FindingCode.SPACE_NO_COOL_HIDE,
}
END_OF: Final = {
    FindingCode.HEAT_WARM_AIR_COLD: ("warm_air", "day"),
    FindingCode.HEAT_COOL_AIR_COLD: ("cool_air", "day"),
    FindingCode.HEAT_NIGHT_COLD: ("cool_air", "night"),
    FindingCode.HEAT_NIGHT_WARM_END_COLD: ("warm_air", "night"),
}


def candidates(plan: HabitatPlan, profile: Profile, finding: Finding, found: Assessment) -> Iterator[Remedy]:
    """What could mend a finding, each change once and the likeliest first: what its rule proposes, then what else keepers do."""
    seen: list[tuple[Change, ...]] = []
    for remedy in _thought_of(plan, profile, finding, found):
        if remedy.changes not in seen:
            seen.append(remedy.changes)
            yield remedy


def _thought_of(plan: HabitatPlan, profile: Profile, finding: Finding, found: Assessment) -> Iterator[Remedy]:
    if finding.remedy is not None and finding.remedy.changes:
        yield finding.remedy
    if finding.code in HOT:
        yield from _cooler(plan, finding, found)
    elif finding.code in COLD:
        yield from _heated_end(plan, finding, found, climbed=climbs(profile))
        yield from _warmer(plan)
        yield from _heated_end(plan, finding, found, climbed=climbs(profile), low=True)
    elif finding.code == FindingCode.HEAT_SMALL_PATCH:
        yield from _side_by_side(plan, found)
    elif finding.code == FindingCode.MOISTURE_DRY:
        yield from _wetter(plan, finding, found)
    elif finding.code == FindingCode.MOISTURE_WET:
        yield from _drier(plan, finding)
    elif finding.code in (FindingCode.UV_STRONG, FindingCode.UV_WEAK):
        yield from _other_tube(plan, stronger=finding.code == FindingCode.UV_WEAK)
        if finding.code == FindingCode.UV_WEAK:
            yield from _longer_tube(plan)
            yield from _higher_platform(plan)
    elif finding.code == FindingCode.HEAT_NO_THERMOSTAT:
        yield from _held_as_it_is(plan, finding, found)
    elif finding.code == FindingCode.HEAT_IN_WATER:
        told = {"kind": finding.parameters["kind"]}
        yield Remedy(RemedyCode.HEAT_OUT_OF_WATER, told, (Change(finding.subject, None),))
    elif finding.code == FindingCode.HEAT_TOO_CLOSE:
        yield from _lower_platform(plan)
    elif finding.code in MISPLACED:
        yield from furnishing.other_places(plan, finding)


def _cooler(plan: HabitatPlan, finding: Finding, found: Assessment) -> Iterator[Remedy]:
    """Less heat: lower set points, a thermostat, the next sizes down, no heater at all; for a back, weaker lamps side by side."""
    if finding.code == FindingCode.HEAT_BACK_HOT:
        yield from _side_by_side(plan, found)
    if finding.remedy is not None and finding.remedy.code == RemedyCode.HEAT_COOL_THE_ROOM:
        return  # its heaters give nothing then: the room is too warm
    over = max((miss(item) for item in found.quantities if item.verdict in BAD), default=2.0)
    own = max((miss(item) for item in found.quantities if item.id == finding.about), default=over)
    night = finding.code in (FindingCode.HEAT_NIGHT_WARM, FindingCode.HEAT_NIGHT_COOL_END_WARM)
    for index, heater in enumerate(plan.heaters):
        path, held = f"heaters.{index}", heater.thermostat
        if held.kind == "none" or held.set_c is None:
            continue
        by_night = night and held.night_set_c is not None
        name, now = ("night_set_c", held.night_set_c or 0.0) if by_night else ("set_c", held.set_c)
        # A little first: what is warmed by the same heater may stand near its own lower edge.
        for down in sorted({own + 0.2, 1.5 * own + 0.4, over + 0.5, 2 * over + 1.0}):
            lower = round(now - down, 1)
            if lower >= 10.0:
                told = {"wanted": Measure(lower, "degC")}
                yield Remedy(RemedyCode.HEAT_SET_THERMOSTAT, told, (Change(f"{path}.thermostat.{name}", lower),))
    for index, heater in enumerate(plan.heaters):
        sizes = [size for size in LIGHT_SIZES_W if any(abs(size / heater.watts - share) < 0.13 for share in SHARES_OF_WATTS)]
        for size in sorted(sizes, reverse=True):
            said = {"watts": Measure(size, "W"), "now": Measure(heater.watts, "W"), "kind": heater.kind}
            yield Remedy(RemedyCode.HEAT_TAKE_WATTS, said, (Change(f"heaters.{index}.watts", size),))
        if HEATERS[heater.kind].place == "over" and highest_m(plan) > heater.height_m + 0.02:
            height = round(highest_m(plan) - 0.0005, 3)
            yield Remedy(RemedyCode.HEAT_HANG_AT, {"height": Measure(height, "m")}, (Change(f"heaters.{index}.height_m", height),))
    for index, heater in enumerate(plan.heaters):
        told_away = {"watts": Measure(heater.watts, "W"), "kind": heater.kind}
        yield Remedy(RemedyCode.HEAT_TAKE_AWAY, told_away, (Change(f"heaters.{index}", None),))


def _held_as_it_is(plan: HabitatPlan, finding: Finding, found: Assessment) -> Iterator[Remedy]:
    """A thermostat set to what its probe reads now: it changes nothing on a usual day, and holds back on a hot one."""
    index = int(finding.subject)
    heater = plan.heaters[index]
    control = HEATERS[heater.kind].controls[0]
    day = plan.daylight.lights(heater)
    for key, probe in (("basking_surface", "basking-surface"), ("warm_air", "warm-air"), ("cool_air", "cool-air")):
        read = [item.value for item in found.quantities if item.key == key and item.phase == ("day" if day else "night")]
        for set_c in sorted({round(value + 0.3, 1) for value in read if value is not None}):
            held = {"kind": control, "set_c": set_c, "probe": probe}
            told: dict[str, Parameter] = {"control": control, "wanted": Measure(set_c, "degC")}
            yield Remedy(RemedyCode.HEAT_ADD_THERMOSTAT, told, (Change(f"heaters.{index}.thermostat", held),))


def _side_by_side(plan: HabitatPlan, found: Assessment) -> Iterator[Remedy]:
    """Several weaker lamps where one hangs over the basking place."""
    basking = found.body.decision.stage.heat.basking_surface_c
    wanted_c = choose(basking, plan.schools).middle if basking else None
    lamps = basking_lamps(enclosure_case(plan))
    if len(lamps) == 1 and lamps[0] < len(plan.heaters):
        yield from (remedy for _count, remedy in side_by_side.instead(plan, lamps[0], wanted_c))


def _heated_end(plan: HabitatPlan, finding: Finding, found: Assessment, *, climbed: bool, low: bool = False) -> Iterator[Remedy]:
    """A heater of its own over the end that is too cold, in its colder season."""
    end = END_OF.get(finding.code)
    cold = [item for item in found.quantities if (item.key, item.phase) == end and item.value is not None]
    if cold:
        coldest = min(cold, key=lambda item: item.value or 0.0)
        yield from cold_end.heated(plan, found.climate, coldest, climbed=climbed, low=low)


def _warmer(plan: HabitatPlan) -> Iterator[Remedy]:
    """Less loss: foam board outside the walls, part of an open lid covered."""
    box = plan.enclosure
    for thick in FOAM_M:
        if box.insulation_m < thick and box.kind not in ("mesh", "open-table"):
            yield Remedy(RemedyCode.HEAT_INSULATE, {"thick": Measure(thick, "m")}, (Change("enclosure.insulation_m", thick),))
    yield from _covered(plan)


def _covered(plan: HabitatPlan) -> Iterator[Remedy]:
    if plan.enclosure.lid == "solid":
        return
    for share in COVERS:
        if plan.enclosure.lid_covered < share:
            yield Remedy(RemedyCode.MOISTURE_COVER_LID, {"share": 100 * share}, (Change("enclosure.lid_covered", share),))


def _wetter(plan: HabitatPlan, finding: Finding, found: Assessment) -> Iterator[Remedy]:
    if not may_be_misted(plan, found.body.decision.stage):
        yield from _covered(plan)
        return
    if not plan.ground.damp:
        yield Remedy(RemedyCode.MOISTURE_DAMP_GROUND, {}, ground_damp(plan, damp=True))
    yield from _covered(plan)
    yield from vents.smaller(plan)
    yield from _misted(plan, finding)


def _drier(plan: HabitatPlan, finding: Finding) -> Iterator[Remedy]:
    if plan.ground.damp:
        yield Remedy(RemedyCode.MOISTURE_DRY_GROUND, {}, ground_damp(plan, damp=False))
    yield from with_fewer_plants(plan)
    if plan.enclosure.lid_covered > 0:
        yield Remedy(RemedyCode.MOISTURE_UNCOVER_LID, {}, (Change("enclosure.lid_covered", 0.0),))
    yield from vents.cut(plan)
    yield from vents.wider(plan)
    yield from _misted(plan, finding)


def _misted(plan: HabitatPlan, finding: Finding) -> Iterator[Remedy]:
    """Other amounts than the one proposed, or than there is, in the season it is about."""
    season = str(finding.parameters.get("season", "winter"))
    now = plan.misting.of(season).grams_per_day
    proposed = finding.remedy.parameters.get("grams", 0) if finding.remedy is not None else 0
    base = float(proposed) if isinstance(proposed, int) and proposed else now
    for share in MISTED:
        grams = float(round(base * share / 5) * 5)
        if 0 < grams <= MOST_MISTED_G and (grams > now) == (finding.code == FindingCode.MOISTURE_DRY):
            said: dict[str, Parameter] = {"grams": round(grams), "season": season}
            yield Remedy(RemedyCode.MOISTURE_MIST, said, (misted(plan, season, grams),))


def _other_tube(plan: HabitatPlan, *, stronger: bool) -> Iterator[Remedy]:
    """The tube of the next strength of its kind, and other heights."""
    classes = {
        "slim": ("slim-6", "slim-10", "slim-12", "slim-14"),
        "wide": ("wide-5", "wide-10"),
        "compact": ("compact-5", "compact-10"),
    }
    for index, lamp in enumerate(plan.uv_lamps):
        row = classes[lamp.kind.partition("-")[0]]
        now = row.index(lamp.kind)
        for kind in row[now + 1 :] if stronger else reversed(row[:now]):
            yield Remedy(RemedyCode.UV_TAKE_TUBE, {"kind": kind}, (Change(f"uv_lamps.{index}.kind", kind),))


def _longer_tube(plan: HabitatPlan) -> Iterator[Remedy]:
    """Where one tube hangs alone, a longer one of its strength or of the strongest, where it hangs: more of it lights the back."""
    if len(plan.uv_lamps) != 1 or plan.uv_lamps[0].kind.startswith("compact"):
        return
    now = plan.uv_lamps[0]
    longer = [length for length in ultraviolet.LENGTHS_M if now.tube_m < length <= plan.enclosure.length_m]
    for kind in dict.fromkeys((now.kind, ultraviolet.KINDS[-1])):
        for tube_m in longer[:LONGER]:
            new = ultraviolet.over_spot(plan, now.model_copy(update={"kind": kind}), tube_m)
            told: dict[str, Parameter] = {"length": Measure(tube_m, "m"), "height": Measure(now.height_m, "m"), "kind": kind}
            changes = {"kind": kind, "tube_m": tube_m, "x_m": new.x_m}
            yield Remedy(
                RemedyCode.UV_TAKE_OTHER, told, tuple(Change(f"uv_lamps.0.{name}", value) for name, value in changes.items())
            )


def _higher_platform(plan: HabitatPlan) -> Iterator[Remedy]:
    """The basking place nearer to the tube, where it is a branch or a ledge that is fixed."""
    if plan.platform is None or not plan.platform.lets_under:
        return
    for more_m in (0.03, 0.06, 0.1):
        height = round(plan.platform.top_m + more_m, 3)
        yield Remedy(RemedyCode.UV_PLATFORM_AT, {"height": Measure(height, "m")}, (raised(plan, plan.platform, height),))


def _lower_platform(plan: HabitatPlan) -> Iterator[Remedy]:
    if plan.platform is None:
        return
    for share in (0.6, 0.3, 0.0):
        height = round(plan.platform.top_m * share, 3)
        yield Remedy(RemedyCode.HEAT_PLATFORM_AT, {"height": Measure(height, "m")}, (raised(plan, plan.platform, height),))
