"""Whether a week's food is enough, and made of the right things: energy at the plan's own temperatures, minerals, vitamins."""

import math
from dataclasses import replace
from datetime import date
from typing import Final

from husbandry.animal.body import Body
from husbandry.animal.growth_outlook import masses_at
from husbandry.animal.subject import Subject
from husbandry.animal.weighings import Weighing
from husbandry.assessment import Band, Basis, BasisKind, Measure, Parameter, Quantity, Reason, Verdict
from husbandry.climate.heaters import HEATERS
from husbandry.climate.states import Climate
from husbandry.codes import ReasonCode
from husbandry.diet import intake, nutrients
from husbandry.diet.energy import Intake
from husbandry.feeding import week_food
from husbandry.feeding.week_food import Fed
from husbandry.plan.equipment import hours_of
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.leaves import choose
from husbandry.species.profile import Profile
from husbandry.species.stage import Stage
from husbandry.units import DAYS_A_MONTH

METABOLISM: Final = Basis(BasisKind.SOURCE, "Andrews & Pough 1985; Nagy et al. 1999 (recalled)")
CLINICAL: Final = Basis(BasisKind.MEMORY, "common clinical advice")
CAUTIOUS: Final = Basis(BasisKind.MEMORY, "a cautious cap, no one source")
# The food of plant eaters, percent of dry matter (recalled), and of the bowl as it is.
# Fibre as the table of foods has it: about twice the crude fibre, of which 12 % and more is asked for.
PLANT_FIBRE: Final = Band(24.0, None, CLINICAL)
PLANT_PROTEIN: Final = Band(None, 26.0, CLINICAL)
FRUIT: Final = Band(None, 10.0, Basis(BasisKind.PRACTICE))
FOREST_FRUIT: Final = Band(None, 25.0, Basis(BasisKind.PRACTICE))
RATIO_SPREAD_TOLD: Final = 0.2
MOSTLY: Final = 0.9
UNKNOWN_MOST: Final = 0.5  # of the week's food, beyond which its sums tell nothing
A_NEED: Final = Basis(BasisKind.ESTIMATE, "NRC 1994, NRC 2006 (recalled)", "what hens need, and under half of what cats do")
A_LEAST: Final = Band(nutrients.A_FLOOR_IU_PER_KG, None, A_NEED, near=400.0)
CURVE: Final = Basis(BasisKind.ESTIMATE, note="the species' growth curve")
# Animals of one age and one way of feeding scatter by so much about their curve (estimate).
LIGHT_OF_LEAN, HEAVY_OF_FAST, NEAR_SHARE = 0.75, 1.3, 0.1
# What an animal has gained itself is judged over so many days at least, and is enough from such a share of the lean curve's.
OWN_PAST_DAYS: Final = 45
ENOUGH_OF_LEAN: Final = 0.8
# Of a day's light a basking animal spends about half at its warm end (estimate).
WARM_SHARE: Final = 0.5
BELLY_SHARE: Final = 0.7  # of what it lies on, in the temperature of a body that warms its belly (estimate)
PREFERRED_MOST_C: Final = 35.0  # of the body, however hot it likes its stone: the middle of 33 to 38 °C (Huey 1982; recalled)


def season_of(plan: HabitatPlan, today: date) -> str:
    """The half of the year a day lies in, on the keeper's side of the equator."""
    return "summer" if (4 <= today.month <= 9) != plan.southern else "winter"


def growth(plan: HabitatPlan, profile: Profile, body: Body, weighings: tuple[Weighing, ...] = ()) -> list[Quantity]:
    """The animal's weight against what its species' lean and fast curves have at its age; nothing where either is not known.

    It is light only where it lies below the lean curve and its own weighings do not show that it keeps growing as that does.
    """
    if body.age_days is None or not body.mass_known or body.mass_kg is None:
        return []
    sex = plan.animal.sex
    course = masses_at(profile, sex, body.age_days)
    least_kg = LIGHT_OF_LEAN * course.lean_kg
    band = Band(least_kg, HEAVY_OF_FAST * course.fast_kg, CURVE, near=NEAR_SHARE * least_kg)
    said: dict[str, Parameter] = {
        "lean": Measure(course.lean_kg, "kg"),
        "fast": Measure(course.fast_kg, "kg"),
        "age": Measure(body.age_days / DAYS_A_MONTH, "months"),
    }
    # The band is as wide as lean and fast lie apart: what is near is told from either edge by itself.
    light = body.mass_kg < course.middle_kg
    edge = replace(band, high=None) if light else replace(band, low=None, near=NEAR_SHARE * HEAVY_OF_FAST * course.fast_kg)
    verdict, reason = edge.judge(body.mass_kg), Reason(ReasonCode.DIET_GROWTH, said)
    if verdict is not Verdict.INSIDE and body.mass_kg < course.lean_kg and _keeps_growing(plan, profile, weighings):
        verdict, reason = Verdict.INSIDE, Reason(ReasonCode.DIET_GROWTH_OWN, said)
    return [Quantity("mass", "kg", body.mass_kg, verdict, reason, CURVE, band)]


def _keeps_growing(plan: HabitatPlan, profile: Profile, weighings: tuple[Weighing, ...]) -> bool:
    """Tell whether its last weight lies above an earlier one by as much as the lean curve gains from the one day to the other."""
    hatched = plan.animal.hatched
    weighed = sorted((item.day, item.mass_kg) for item in weighings if item.mass_kg)
    if hatched is None or not weighed or (weighed[-1][0] - weighed[0][0]).days < OWN_PAST_DAYS:
        return False
    last_day, last_kg = weighed[-1]
    day, kg = max(item for item in weighed if (last_day - item[0]).days >= OWN_PAST_DAYS)
    then, now = (masses_at(profile, plan.animal.sex, (at - hatched).days).lean_kg for at in (day, last_day))
    return math.log(last_kg / kg) >= ENOUGH_OF_LEAN * math.log(now / then)


def body_temperatures_c(plan: HabitatPlan, profile: Profile, stage: Stage, climate: Climate, season: str) -> tuple[float, ...]:
    """The animal's own temperature through a day, hour by hour.

    What basks keeps the temperature it prefers while there is heat to be had, or comes as near as stone and warm air let it; in
    light without heat it lies between the ends, and in the dark at the cool end, the coolest it must bear. What does not bask
    lies between the ends while it is light. What lives in water has the water's, but for the hours it basks.

    Parameters
    ----------
    plan, profile, stage
        The habitat, and the animal's species and stage.
    climate, season
        The steady states, and which of them.

    Returns
    -------
    °C, 24 hours from midnight.

    References
    ----------
    Thermoregulation between set points: heliotherms hold 33 to 38 °C by day and follow their surroundings by night (Huey 1982,
    docs/models.md [23]; recalled). That the middle of the book's warm air and basking surface is what it prefers is an estimate.
    """
    begin, span = hours_of(plan.daylight.on), plan.daylight.hours_a_day
    day, night = (climate.states[season, phase].predictions for phase in ("day", "night"))
    ends = [(item["warm_air"].value, item["cool_air"].value) for item in (day, night)]
    if profile.habit == "aquatic" and "water" in day:
        basks = profile.stages[-1].heat.basking_surface_c is not None
        ends = [(item["warm_air" if basks else "water"].value, item["water"].value) for item in (day, night)]
    lit = WARM_SHARE * ends[0][0] + (1 - WARM_SHARE) * ends[0][1]
    warmed = lit
    if stage.heat.basking_surface_c is not None:
        wanted = (choose(item, plan.schools).middle for item in (stage.heat.warm_air_c, stage.heat.basking_surface_c))
        reached = (day["basking_surface"].value + day["warm_air"].value) / 2
        warmed = max(min(sum(wanted) / 2, PREFERRED_MOST_C, reached), lit)

    elif stage.heat.mat_surface_c is not None:
        # Its belly pressed to the ground over the mat, its back in the air of that end.
        over_mat = choose(stage.heat.mat_surface_c, plan.schools).middle
        warmed = max(min(BELLY_SHARE * over_mat + (1 - BELLY_SHARE) * day["warm_air"].value, PREFERRED_MOST_C), lit)

    def at(hour: float) -> float:
        if (hour - begin) % 24 >= span:
            return ends[1][1]
        return warmed if _heat_to_be_had(plan, hour) else lit

    return tuple(at(hour + 0.5) for hour in range(24))


def _heat_to_be_had(plan: HabitatPlan, hour: float) -> bool:
    """Tell whether there is a warm place at that hour: under a lamp, a panel or the sun, over a mat."""
    over = any(HEATERS[heater.kind].place in ("over", "under") and heater.runs_at(hour) for heater in plan.heaters)
    return over or (plan.window is not None and plan.window.runs_at(hour))


def quantities(subject: Subject, climate: Climate, fed: Fed, weighings: tuple[Weighing, ...] = ()) -> list[Quantity]:
    """The weight at its age, energy, calcium over phosphorus, vitamins, and for plant eaters fibre, protein and fruit."""
    plan, profile, body = subject.plan, subject.profile, subject.body
    season = season_of(plan, subject.today)
    temperatures_c = body_temperatures_c(plan, profile, subject.stage, climate, season)
    found = growth(plan, profile, body, weighings)
    found += [_energy(plan, profile, body, temperatures_c, fed), eaten(plan, profile, body, fed)]
    week = fed.week
    if week is None:
        return found
    if _unmeasured(body, fed):
        # How much of each part it gets goes by its size: no sum over them tells anything before that is known.
        unknown = Reason(ReasonCode.DIET_PORTION_UNKNOWN, {})
        units = (("calcium_ratio", ":1"), ("d3_share", "IU/kg"), ("a_share", "IU/kg"), ("usable_a", "IU/kg"))
        return found + [
            Quantity(key, unit, None, Verdict.UNKNOWN, unknown, CLINICAL, question="animal.mass_kg") for key, unit in units
        ]
    found.append(_ratio(profile, week, fed))
    found += [_vitamin("d3_share", week.d3_iu_per_kg, nutrients.D3_CAP_IU_PER_KG)]
    found += [_vitamin("a_share", week.a_iu_per_kg, nutrients.A_CAP_IU_PER_KG), _usable_a(profile, week)]
    if profile.diet in ("plants", "omnivore"):
        found += _plants(profile, week)
    return found


def _unmeasured(body: Body, fed: Fed) -> bool:
    """Tell whether the parts of its food stand in no known proportion, since nothing is known of its size."""
    return body.mass_kg is None and (bool(fed.unknown) or len(fed.helpings) > 1) and not fed.own


def _energy(plan: HabitatPlan, profile: Profile, body: Body, temperatures_c: tuple[float, ...], fed: Fed) -> Quantity:
    need = week_food.need(plan, profile, body, temperatures_c)
    said: dict[str, Parameter] = {"mean": Measure(sum(temperatures_c) / len(temperatures_c), "degC")}
    if need is None or fed.week is None or fed.unknown:
        question = "animal.mass_kg" if body.mass_kg is None else ""
        code = ReasonCode.DIET_ENERGY_UNKNOWN if need is None else ReasonCode.DIET_PORTION_UNKNOWN
        return Quantity("energy_week", "kJ", None, Verdict.UNKNOWN, Reason(code, {}), METABOLISM, question=question)
    eaten_kj = fed.week.kj
    band = Band(need.starving_kj, need.fattening_kj, METABOLISM)
    said |= {
        "intake": need.judge(eaten_kj).value,
        "standard": Measure(need.standard_kj, "kJ"),
        "free": Measure(need.free_kj, "kJ"),
        "growth": Measure(need.growth_kj, "kJ"),
    }
    verdict = {Intake.STARVING: Verdict.OUTSIDE, Intake.FATTENING: Verdict.OUTSIDE}.get(need.judge(eaten_kj), Verdict.INSIDE)
    return Quantity("energy_week", "kJ", eaten_kj, verdict, Reason(ReasonCode.DIET_ENERGY, said), METABOLISM, band)


def eaten(plan: HabitatPlan, profile: Profile, body: Body, fed: Fed) -> Quantity:
    """What is eaten a day over the body mass of all the animals, in %: fresh, or dry for what grazes."""
    dry = intake.is_dry(profile.diet)
    reason = Reason(ReasonCode.DIET_INTAKE_DRY if dry else ReasonCode.DIET_INTAKE, {})
    if body.mass_kg is None or fed.unknown or not fed.helpings:
        question = "animal.mass_kg" if body.mass_kg is None else ""
        unknown = Reason(ReasonCode.DIET_PORTION_UNKNOWN, {})
        return Quantity("intake_day", "%", None, Verdict.UNKNOWN, unknown, intake.PRACTICE, question=question)
    grams = sum(item.grams * (item.food.dry_share if dry else 1.0) for item in fed.helpings) / 7
    percent = grams / (10 * body.mass_kg * plan.animal.count)
    band = intake.span(profile.diet, grown=body.decision.stage.id == profile.stages[-1].id)
    verdict = Verdict.NOT_APPLICABLE
    if band is not None and band.low is not None and band.high is not None:
        # The ends lie twentyfold apart: by the band's width whoever starves would be near it.
        verdict = Verdict.INSIDE if band.low <= percent <= band.high else Verdict.OUTSIDE
    return Quantity("intake_day", "%", percent, verdict, reason, intake.PRACTICE, band)


def beyond_the_sum(profile: Profile) -> ReasonCode | None:
    """Why calcium over phosphorus of the food does not judge this animal's diet; None where it does.

    An egg out of its shell is short by any sum, and yet egg-eating snakes live on it; what breathes water takes calcium from it.
    """
    if profile.diet == "eggs":
        return ReasonCode.DIET_RATIO_EGGS
    return ReasonCode.DIET_RATIO_WATER if profile.group == "salamander" and profile.habit == "aquatic" else None


def _ratio(profile: Profile, week: nutrients.NutrientSums, fed: Fed) -> Quantity:
    if (why := beyond_the_sum(profile)) is not None:
        return Quantity("calcium_ratio", ":1", week.ratio, Verdict.NOT_APPLICABLE, Reason(why, {}), CLINICAL)
    if week.ratio is None or week.unknown_share > UNKNOWN_MOST:
        return Quantity("calcium_ratio", ":1", None, Verdict.UNKNOWN, Reason(ReasonCode.DIET_RATIO_UNKNOWN, {}), CLINICAL)
    low, high = nutrients.RATIO_WANTED
    # Bones carry their own calcium: whole prey is right at one to one.
    low -= (low - nutrients.RATIO_DANGER) * week.whole_prey_share
    band = Band(low, None, CLINICAL, danger_low=nutrients.RATIO_DANGER / 2)
    much = week.ratio > high and week.plant_share < MOSTLY
    said: dict[str, Parameter] = {
        "dust": Measure(sum(dose.grams for dose in fed.doses) / 1000, "kg"),
        "from_dust": Measure(100 * week.dust_calcium_mg / week.calcium_mg if week.calcium_mg else 0.0, "%"),
    }
    return Quantity(
        "calcium_ratio",
        ":1",
        week.ratio,
        Verdict.NEAR if much else band.judge(week.ratio),
        Reason(ReasonCode.DIET_RATIO, said),
        CLINICAL,
        band,
        *_calcium_ends(week),
    )


def _calcium_ends(week: nutrients.NutrientSums) -> tuple[float, float] | tuple[None, None]:
    """Calcium over phosphorus at either end of what the foods vary between; nothing where they do not vary much."""
    ends = week.calcium_low_mg / week.phosphorus_mg, week.calcium_high_mg / week.phosphorus_mg
    return ends if ends[1] - ends[0] > RATIO_SPREAD_TOLD else (None, None)


def _vitamin(key: str, value: float, cap: float) -> Quantity:
    band = Band(None, cap, CAUTIOUS, danger_high=3 * cap)
    return Quantity(key, "IU/kg", value, band.judge(value), Reason(ReasonCode.DIET_VITAMIN, {}), CAUTIOUS, band)


def makes_a_of_carotene(profile: Profile) -> bool:
    """Tell whether an animal lives on plants enough to make its vitamin A of their carotene; insect eaters do not."""
    return profile.diet in ("plants", "omnivore")


def _usable_a(profile: Profile, week: nutrients.NutrientSums) -> Quantity:
    """Vitamin A it can make use of, against the least: from the whole prey, from powders, from greens where it lives on them."""
    carotene = makes_a_of_carotene(profile)
    value = week.retinol_iu_per_kg + (week.carotene_iu_per_kg if carotene else 0.0)
    reason = Reason(ReasonCode.DIET_A_CAROTENE if carotene else ReasonCode.DIET_A_RETINOL, {})
    if week.unknown_a_share > UNKNOWN_MOST:
        return Quantity("usable_a", "IU/kg", None, Verdict.UNKNOWN, Reason(ReasonCode.DIET_RATIO_UNKNOWN, {}), A_NEED)
    return Quantity("usable_a", "IU/kg", value, A_LEAST.judge(value), reason, A_NEED, A_LEAST)


def _plants(profile: Profile, week: nutrients.NutrientSums) -> list[Quantity]:
    """Fibre and protein of what is nearly all plants, fruit of all that eat any."""
    found = []
    if week.plant_share >= MOSTLY:
        found += [
            _share(key, share, band, ReasonCode.DIET_DRY_SHARE)
            for key, share, band in (
                ("fibre_share", week.fibre_share, PLANT_FIBRE),
                ("protein_share", week.protein_share, PLANT_PROTEIN),
            )
            if share is not None
        ]
    forest = profile.habit in ("terrestrial", "arboreal") and profile.diet == "omnivore"
    if week.plant_share > 0:
        found.append(_share("fruit_share", week.fruit_share, FOREST_FRUIT if forest else FRUIT, ReasonCode.DIET_FRUIT))
    return found


def _share(key: str, share: float, band: Band, code: ReasonCode) -> Quantity:
    return Quantity(key, "%", 100 * share, band.judge(100 * share), Reason(code, {}), band.basis, band)
