"""The feeding interval and the rations as quantities."""

from husbandry.assessment import Measure, Parameter, Quantity, Reason, Verdict
from husbandry.codes import ReasonCode
from husbandry.diet.condition import RIGHT
from husbandry.feeding.menu import Menu
from husbandry.feeding.week_food import own_days
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.leaves import choose
from husbandry.species.stage import Stage


def quantities(plan: HabitatPlan, stage: Stage, menu: Menu) -> list[Quantity]:
    """The interval against the stage's rule, and the amount of each part of a feed."""
    band = choose(stage.feeding.interval_days, plan.schools).band()
    chosen = own_days(plan)
    moved = menu.fed is not None and menu.fed.step.moved == "interval"
    reason = Reason(ReasonCode.FEED_INTERVAL, {"by": "keeper" if chosen else "condition" if moved else "stage"})
    verdict = Verdict.INSIDE if moved and not chosen else band.judge(menu.interval_days)
    days = float(menu.interval_days)
    found = [Quantity("feed_interval", "d", days, verdict, reason, band.basis, band, school=band.school)]
    for index, ration in enumerate(menu.rations):
        key, basis = f"ration_{index + 1}", ration.meal.origin
        said: dict[str, Parameter] = {"food": ration.meal.food, "limit": ration.meal.prey_limit}
        if ration.limit is not None:
            said["most"] = Measure(ration.limit.at_most_m, "m")
            said["measured"] = int(ration.limit.measured)
        if ration.moved != 1.0:
            scored = plan.feeding.condition not in (None, RIGHT)
            said |= {"condition": int(plan.feeding.condition or 0)} if scored else {"gravid": 1}
        if ration.count is not None or ration.mass_kg is not None:
            code, unit = (ReasonCode.FEED_COUNT, "1") if ration.count is not None else (ReasonCode.FEED_MASS, "kg")
            low, high = ration.count or ration.mass_kg or (0, 0)
            middle = (low + high) / 2
            found.append(Quantity(key, unit, middle, Verdict.NOT_APPLICABLE, Reason(code, said), basis, low=low, high=high))
        elif ration.needs_mass:
            reason = Reason(ReasonCode.FEED_MASS, said)
            found.append(Quantity(key, "kg", None, Verdict.UNKNOWN, reason, basis, question="animal.mass_kg"))
        else:
            said["portion"] = ration.meal.portion
            found.append(Quantity(key, "1", None, Verdict.NOT_APPLICABLE, Reason(ReasonCode.FEED_PORTION, said), basis))
    return found
