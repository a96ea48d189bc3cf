"""The quantities of heat and moisture, by season and phase, with the lamp height that would be right."""

from husbandry.animal.needs import swims
from husbandry.animal.subject import Subject
from husbandry.animal.widths import COIL_SHARE, SLENDER, WIDTHS
from husbandry.assess.probability import JointProbability
from husbandry.assessment import NEAR_K, Band, Basis, BasisKind, Measure, Parameter, Quantity, Reason, Verdict
from husbandry.climate import heaters
from husbandry.climate.air import moved_humidity
from husbandry.climate.case import EnclosureCase, HeaterCase, running
from husbandry.climate.contact import back_temperature, mat_contact
from husbandry.climate.hang import height_for
from husbandry.climate.phases import phases_of
from husbandry.climate.states import Climate, Spread, SteadyState
from husbandry.codes import ReasonCode
from husbandry.inputs.light_sources import glowing, inside_watts
from husbandry.plan.geometry import highest_m
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.leaves import choose
from husbandry.species.stage import Stage

# Beyond the band's edge by this much an animal is burnt or chilled (estimates; the vet's limits differ by species).
BURN_MARGIN_K = 7.0
BACK_MOST_C = 60.0
SKIN = Basis(BasisKind.SOURCE, "Moritz & Henriques 1947 (recalled)", "at 60 °C skin burns within seconds")
CHILL_MARGIN_K = 5.0
MAT_MOST_C, MAT_DANGER_C = 40.0, 46.0  # at a mat's face (trade)
LEAST_IRRADIANCE = 1e-6  # W/m²
TOGETHER_SHARE = 0.3  # of the main lamp's warmth on the spot: another one with that much is hung for the spot too
NIGHT_HARM = {"warm_air": "warm", "cool_air": "night"}  # by night each end's air harms from this ceiling on
OUT_OF_WATER = ("basking_surface", "warm_air", "hottest_air")  # what a turtle that basks meets outside
MODEL = Basis(BasisKind.ESTIMATE, note="zone balance; your own readings replace it")


def quantities(
    subject: Subject, case: EnclosureCase, climate: Climate, joint: JointProbability, *, hanging: bool = True
) -> list[Quantity]:
    """Basking surface, warm and cool end by day and by night, the hottest air, humidity per zone, patch and power.

    Without `hanging` the height at which the lamp would be right is left out: it takes several more solves.
    """
    plan, stage = subject.plan, subject.stage
    found = of_climate(subject, climate, joint)
    found += _mats(subject, case, climate)
    if plan.heaters:
        found += back(subject, case, climate)
        found += patch(subject, case)
        found += _hanging(plan, stage, case, climate if hanging else None)
    return found


def of_climate(subject: Subject, climate: Climate, joint: JointProbability, only: frozenset[str] | None = None) -> list[Quantity]:
    """What the steady climate alone tells, by season and phase; of the keys in `only`, of all where None."""
    plan, profile, stage = subject.plan, subject.profile, subject.stage
    heat, moisture, schools = stage.heat, stage.moisture, plan.schools
    ceiling_c = heat.ceiling_c.value
    basking = choose(heat.basking_surface_c, schools) if heat.basking_surface_c else None
    night = choose(heat.night_c, schools)
    harmful_c = heat.harmful_c
    nights = {end: night.band_c(danger_low=_below(night.low), danger_high=harmful_c[by]) for end, by in NIGHT_HARM.items()}
    ceiling_band = Band(None, ceiling_c, heat.ceiling_c.origin, danger_high=ceiling_c, near=NEAR_K)
    hide_band = choose(moisture.humid_hide_percent, schools).band() if moisture.humid_hide_percent else None
    found: list[Quantity] = []
    leaves = basking is not None
    for (_season, phase), steady in climate.states.items():
        bands: dict[str, Band | None] = {"hottest_air": ceiling_band}
        if phase == "day":
            if basking is not None:
                bands["basking_surface"] = basking.band_c(
                    danger_high=BURN_MARGIN_K + (ceiling_c if basking.high is None else basking.high)
                )
            else:
                bands["basking_surface"] = ceiling_band
            bands["warm_air"] = choose(heat.warm_air_c, schools).band_c(danger_high=ceiling_c)
            bands["cool_air"] = choose(heat.cool_air_c, schools).band_c(danger_high=harmful_c["cool"])
            humid = choose(moisture.day_percent, schools).band()
        else:
            bands |= nights
            humid = choose(moisture.night_percent, schools).band()
        if only is None or "warm_humidity" in only:
            bands["warm_humidity"] = _moved(humid, steady)
        bands["cool_humidity"] = humid
        if "humid_hide" in steady.predictions and hide_band is not None:
            bands["humid_hide"] = hide_band
        for key, band in bands.items():
            if only is not None and key not in only:
                continue
            # What lives in water is judged by the water; what climbs out to bask breathes the air of the day over it.
            judged = not swims(plan, profile) or (leaves and key in OUT_OF_WATER and not (key == "warm_air" and phase == "night"))
            found.append(_quantity(key, steady, steady.predictions[key], band if judged else None, plan, joint))
        if only is not None:
            continue
        if "heated_hide" in steady.predictions:
            found.append(_quantity("heated_hide", steady, steady.predictions["heated_hide"], None, plan, joint))
        found += [_at_probe(plan, steady, index) for index in range(len(plan.probes))]
        found.append(_power(plan, steady))
    return found


def _at_probe(plan: HabitatPlan, steady: SteadyState, index: int) -> Quantity:
    """What a thermometer of the keeper's own shows; no band: it is judged by where the animal is."""
    probe, spread = plan.probes[index], steady.predictions[f"probe_{index + 1}"]
    where: dict[str, Parameter] = {"name": probe.name, "where": Measure(probe.x_m, "m"), "height": Measure(probe.height_m, "m")}
    return Quantity(
        f"probe_{index + 1}",
        "degC",
        spread.value,
        Verdict.NOT_APPLICABLE,
        Reason(ReasonCode.HEAT_AT_PROBE, where),
        MODEL,
        None,
        spread.low,
        spread.high,
        steady.season,
        steady.phase,
    )


def _below(low: float | None) -> float | None:
    return None if low is None else low - CHILL_MARGIN_K


def _moved(band: Band, steady: SteadyState) -> Band:
    """The cool end's band as the same vapour reads at the warm end: no keeper can ask both ends for one number."""
    cool_c, warm_c = steady.predictions["cool_air"].value, steady.predictions["warm_air"].value
    low, high = (None if edge is None else float(moved_humidity(edge, cool_c, warm_c)) for edge in (band.low, band.high))
    return Band(
        low, high, Basis(band.basis.kind, band.basis.citation, "the cool end's band at the warm end's temperature"), band.school
    )


def _quantity(
    key: str, steady: SteadyState, spread: Spread, band: Band | None, plan: HabitatPlan, joint: JointProbability
) -> Quantity:
    is_moisture = key.endswith("humidity") or key == "humid_hide"
    room = getattr(plan.room, steady.season)
    room_c = plan.room_c(steady.season, steady.phase)
    parameters: dict[str, Parameter] = {
        "room": Measure(room_c, "degC"),
        "watts": Measure(steady.watts, "W"),
        "changes": steady.air_changes_h,
    }
    if is_moisture:
        parameters |= {"room_humidity": Measure(room.humidity_percent, "%"), "vapour": round(steady.vapour_pa)}
    if key == "basking_surface":
        terms = steady.surface_sum
        parameters |= {name: float(getattr(terms, name)) for name in ("lamps", "to_air", "to_walls", "to_bed")}
    reason = Reason(
        ReasonCode.AIR_VAPOUR if is_moisture else ReasonCode.HEAT_SURFACE if key == "basking_surface" else ReasonCode.HEAT_BALANCE,
        parameters,
    )
    low, high = spread.low, spread.high
    if is_moisture and low is not None and high is not None:
        low, high = max(low, 0.0), min(high, 100.0)
    verdict = band.judge(spread.value) if band else Verdict.NOT_APPLICABLE
    # The warm end's humidity is the cool end's once more.
    name, drawn = f"{key}/{steady.season}/{steady.phase}", steady.draws.get(key)
    likely = joint.of(name, band, drawn, counts=key != "warm_humidity")
    return Quantity(
        key,
        "%" if is_moisture else "degC",
        spread.value,
        verdict,
        reason,
        band.basis if band else MODEL,
        band,
        low,
        high,
        steady.season,
        steady.phase,
        band.school if band else "",
        likely=likely,
    )


def _power(plan: HabitatPlan, steady: SteadyState) -> Quantity:
    limit = sum(heater.watts for heater in plan.heaters) + sum(inside_watts(plan, hung, watts) for hung, watts, _m in glowing(plan))
    reason = Reason(ReasonCode.HEAT_POWER, {"limit": Measure(limit, "W")})
    return Quantity(
        "heat_power",
        "W",
        steady.watts,
        Verdict.NOT_APPLICABLE,
        reason,
        MODEL,
        None,
        steady.predictions["heat_power"].low,
        steady.predictions["heat_power"].high,
        steady.season,
        steady.phase,
    )


def _mats(subject: Subject, case: EnclosureCase, climate: Climate) -> list[Quantity]:
    """What lies on the hottest mat, hidden under the ground, and the surface above it, by season and phase."""
    plan, wanted = subject.plan, subject.stage.heat.mat_surface_c
    found: list[Quantity] = []
    contacts = []
    for index, heater in enumerate(plan.heaters):
        hidden = any(abs(hide.x_m - heater.x_m) < hide.length_m / 2 for hide in plan.hides)
        contact = mat_contact(case, index, hidden)
        if contact is not None:
            contacts.append((index, contact))
    basis = Basis(BasisKind.PRACTICE, note="glass cracks and bellies burn; no reptile feels it in time")
    for (season, phase), steady in climate.states.items() if contacts else ():
        below = [(float(item.below @ steady.node_c) + steady.duty[index] * item.contact_rise_k, index) for index, item in contacts]
        hottest, index = max(below)
        item = dict(contacts)[index]
        above = float(item.above @ steady.node_c) + steady.duty[index] * item.surface_rise_k
        spread = steady.predictions["warm_air"]
        told: dict[str, Parameter] = {"above": Measure(above, "degC"), "depth": Measure(plan.ground.depth_m, "m")}
        band = Band(None, MAT_MOST_C, basis, danger_high=MAT_DANGER_C, near=NEAR_K)
        low, high = spread.around(hottest)
        reason = Reason(ReasonCode.HEAT_MAT, told)
        found.append(
            Quantity("mat_contact", "degC", hottest, band.judge(hottest), reason, band.basis, band, low, high, season, phase)
        )
        if wanted is not None and phase == "day":
            ground = choose(wanted, plan.schools)
            over = ground.band_c(danger_high=BURN_MARGIN_K + ground.most)
            why = Reason(
                ReasonCode.HEAT_MAT_SURFACE, {"below": Measure(hottest, "degC"), "depth": Measure(plan.ground.depth_m, "m")}
            )
            ends = spread.around(above)
            found.append(
                Quantity("mat_surface", "degC", above, over.judge(above), why, over.basis, over, *ends, season, phase, over.school)
            )
    return found


def back_most_c(stage: Stage, schools: dict[str, str]) -> float:
    """The hottest its back may get, °C: a hot stone is met with the feet for moments, the lamp with the back for an hour."""
    ceiling = stage.heat.surface_ceiling_c
    basks = choose(stage.heat.basking_surface_c, schools) if stage.heat.basking_surface_c else None
    most_c = max(BACK_MOST_C, basks.most if basks else 0.0)
    return most_c if ceiling is None else min(ceiling.value, most_c)


def back(subject: Subject, case: EnclosureCase, climate: Climate) -> list[Quantity]:
    """The hottest its back can get on the basking spot, by day, where the book knows the hottest surface it may meet."""
    stage, body = subject.stage, subject.body
    ceiling = stage.heat.surface_ceiling_c
    if ceiling is None:
        return []
    most_c = back_most_c(stage, subject.plan.schools)
    basis = ceiling.origin if most_c == ceiling.value else SKIN
    band = Band(None, most_c, basis, danger_high=most_c + BURN_MARGIN_K, near=NEAR_K)
    found = []
    for (season, phase), steady in climate.states.items():
        if phase != "day":
            continue
        air = steady.predictions["warm_air"]
        value = back_temperature(
            case, steady.duty, body.back_m, body.length_m or 0.1, air.value, steady.predictions["cool_air"].value
        )
        spread = steady.predictions["basking_surface"]
        low, high = spread.around(value)
        told: dict[str, Parameter] = {"height": Measure(body.back_m, "m")}
        found.append(
            Quantity(
                "back",
                "degC",
                value,
                band.judge(value),
                Reason(ReasonCode.HEAT_BACK, told),
                band.basis,
                band,
                low,
                high,
                season,
                phase,
            )
        )
    return found


def main_heater(case: EnclosureCase) -> int | None:
    """The index of the heater that warms the basking spot most when full on; None where nothing shines on it.

    A heater without light that holds the air is no basking lamp while there is one: it is not what one hangs for the spot.
    """
    over = [index for index, heater in enumerate(case.heaters) if heaters.HEATERS[heater.kind].place == "over"]
    meant = [index for index in over if heaters.HEATERS[case.heaters[index].kind].light or _for_the_spot(case.heaters[index])]
    return max(meant or over, key=lambda index: _on_spot(case, case.heaters[index]), default=None)


def basking_lamps(case: EnclosureCase) -> tuple[int, ...]:
    """The heaters that warm the basking spot as one, the main one first: its kind, and no fraction of its warmth there.

    Two lamps side by side over one stone are hung, dimmed and exchanged together. Empty where nothing shines on the spot.
    """
    main = main_heater(case)
    if main is None:
        return ()
    first = case.heaters[main]
    least = TOGETHER_SHARE * _on_spot(case, first)
    others = [
        index
        for index, heater in enumerate(case.heaters)
        if index != main
        and heater.kind == first.kind
        and (heaters.HEATERS[heater.kind].light or _for_the_spot(heater))
        and _on_spot(case, heater) >= max(least, LEAST_IRRADIANCE)
        and _burn_together(case, first, heater)
    ]
    return (main, *others)


def _burn_together(case: EnclosureCase, one: HeaterCase, other: HeaterCase) -> bool:
    """Tell whether two heaters are ever on at once while it is light."""
    return any(
        phase.lit and all(running(heater.on_hour, heater.off_hour, phase.middle) for heater in (one, other))
        for phase in phases_of(case)
    )


def _on_spot(case: EnclosureCase, heater: HeaterCase) -> float:
    """Irradiance in W/m² at the middle of the basking spot, full on, no mesh; 0 for what hangs below it."""
    beam = _beam(case, heater)
    if heater.height_m <= case.spot.top_m:
        return 0.0
    return float(
        heaters.irradiance(
            beam.radiant_watts, beam.half_angle_deg, beam.face_m, case.spot.x_m - beam.x_m, beam.aside_m, beam.drop_m
        )
    )


def _beam(case: EnclosureCase, heater: HeaterCase) -> heaters.Beam:
    kind = heaters.HEATERS[heater.kind]
    drop_m = max(heater.height_m - case.spot.top_m, 0.01)
    aside_m = heater.off_m - case.spot.off_m
    return heaters.Beam(heater.x_m, drop_m, kind.radiant_share * heater.watts, heater.half_angle_deg, kind.face_m, aside_m)


def _for_the_spot(heater: HeaterCase) -> bool:
    return heater.control == "none" or heater.probe == "basking-surface"


def patch(subject: Subject, case: EnclosureCase) -> list[Quantity]:
    """How long the warm patch is that the lamps over the basking spot make together, over the body's width, beside its length."""
    profile, body = subject.profile, subject.body
    lamps = basking_lamps(case)
    if not lamps:
        return []
    heater = case.heaters[lamps[0]]
    drop_m = heater.height_m - case.spot.top_m
    if drop_m <= 0:
        return []
    beams = tuple(_beam(case, case.heaters[index]) for index in lamps)
    share = COIL_SHARE if profile.body.form == "snake" else 1.0
    wanted = None if body.length_m is None else body.length_m * share
    over_m = 0.0 if wanted is None else WIDTHS.get(profile.body.form, SLENDER) * wanted
    width_m = heaters.patch_length(beams, case.spot.x_m, over_m)
    basis = Basis(BasisKind.PRACTICE, note="the warm patch covers the body")
    told: dict[str, Parameter] = {"watts": Measure(heater.watts, "W"), "drop": Measure(drop_m, "m")}
    reason = Reason(ReasonCode.HEAT_PATCH, told | {"lamps": len(lamps)})
    if wanted is None:
        return [Quantity("warm_patch", "m", width_m, Verdict.UNKNOWN, reason, basis, question="animal.length_m")]
    band = Band(wanted, None, basis)
    return [Quantity("warm_patch", "m", width_m, band.judge(width_m), reason, basis, band)]


def _hanging(plan: HabitatPlan, stage: Stage, case: EnclosureCase, climate: Climate | None) -> list[Quantity]:
    """How far the lamps hang over the spot, and the height at which, full on, they just reach the middle of the band in a winter
    room; without `climate` only the first.
    """
    if stage.heat.basking_surface_c is None:
        return []
    wanted = choose(stage.heat.basking_surface_c, plan.schools)
    lamps = basking_lamps(case)
    if not lamps:
        return []
    actual_m = plan.heaters[lamps[0]].height_m - case.spot.top_m
    if climate is None:
        return [Quantity("lamp_distance", "m", actual_m, Verdict.NOT_APPLICABLE, Reason(ReasonCode.HEAT_HUNG), MODEL)]
    hung = height_for(case, lamps, wanted.middle, "winter", highest_m(plan), climate)
    parameters: dict[str, Parameter] = {"wanted": Measure(wanted.middle, "degC")}
    if hung.height_m is None:
        none = ReasonCode.HEAT_HANG_BETWEEN if hung.between else ReasonCode.HEAT_HANG_NONE
        reason = Reason(ReasonCode.HEAT_HANG_HOT if hung.too_hot else none, parameters)
        return [Quantity("lamp_distance", "m", actual_m, Verdict.NOT_APPLICABLE, reason, MODEL)]
    parameters["right"] = Measure(hung.height_m - case.spot.top_m, "m")
    return [Quantity("lamp_distance", "m", actual_m, Verdict.NOT_APPLICABLE, Reason(ReasonCode.HEAT_HANG, parameters), MODEL)]
