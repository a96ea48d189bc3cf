"""Buy once or step up: the enclosures an animal goes through, when each move is due, and what either path costs."""

from dataclasses import dataclass
from datetime import date, timedelta
from itertools import groupby
from typing import Final

from husbandry.animal.body import body_of
from husbandry.animal.growth_outlook import STEPS_DAYS, courses, stage_at
from husbandry.animal.needs import box_of, enclosure_needs
from husbandry.animal.weighings import Weighing
from husbandry.plan.habitat import HabitatPlan
from husbandry.space.sizing import SIDES, Box, Need, short, sides_for
from husbandry.species.profile import Profile

MOST_STEPS: Final = 6


@dataclass(frozen=True)
class Home:
    """One enclosure on the way: from when (None: today's own), its inner sides in m, and the stage it is taken for."""

    since: date | None
    sides_m: tuple[float, float, float]
    stage: str


@dataclass(frozen=True)
class HousingPath:
    """A way to house the animal: its homes in order, and their prices as far as the keeper gave them."""

    homes: tuple[Home, ...]
    prices: tuple[float | None, ...]

    @property
    def total(self) -> float | None:
        """The sum of the prices, None while one is missing."""
        known = [price for price in self.prices if price is not None]
        return sum(known) if len(known) == len(self.prices) else None

    @property
    def moves(self) -> int:
        """How often the animal is still moved."""
        return sum(home.since is not None for home in self.homes)


@dataclass(frozen=True)
class HousingChoice:
    """Both paths, from the enclosure the animal is in; `once` is None where it is in its last one already."""

    now: Home
    step_up: HousingPath
    once: HousingPath | None


def choice(plan: HabitatPlan, profile: Profile, today: date, weighings: tuple[Weighing, ...] = ()) -> HousingChoice | None:
    """Lay out both paths; None where neither age nor size is known.

    There is a step in each stage that outgrows the enclosure before: the recommended size, and no less than the stage ends
    with. Buying once takes the recommended adult size today.
    """
    body = body_of(plan, profile, today)
    found = courses(plan, profile, today, weighings, body)
    if found is None:
        return None
    now_days, lengths = found

    def wanted(k: int, level: int) -> dict[str, Need]:
        stage = stage_at(plan, profile, body, now_days + float(STEPS_DAYS[k]), float(lengths[k]), now_days)
        return enclosure_needs(plan, profile, stage, float(lengths[k]))[level]

    def stage_name(k: int) -> str:
        return stage_at(plan, profile, body, now_days + float(STEPS_DAYS[k]), float(lengths[k]), now_days).name

    box, last = box_of(plan), len(STEPS_DAYS) - 1
    homes: list[Home] = []
    for _name, reach in groupby(range(last + 1), key=stage_name):
        places = list(reach)
        due = next((index for index in places if short(box, wanted(index, 0))), None)
        if due is None or len(homes) == MOST_STEPS:
            continue
        before = homes[-1].sides_m if homes else (0.0, 0.0, 0.0)
        sides = tuple(max(trio) for trio in zip(_sides(wanted(due, 1)), _sides(wanted(places[-1], 0)), before, strict=True))
        homes.append(Home(today + timedelta(days=float(STEPS_DAYS[due])), (sides[0], sides[1], sides[2]), stage_name(due)))
        box = _with_water(Box(*homes[-1].sides_m, box.water_m3), wanted(last, 0))
    own = Home(None, (plan.enclosure.length_m, plan.enclosure.width_m, plan.enclosure.height_m), stage_name(0))
    prices = plan.prices.steps
    stepped = HousingPath(tuple(homes), tuple(prices[index] if index < len(prices) else None for index in range(len(homes))))
    if not homes:
        return HousingChoice(own, stepped, None)
    final = Home(today, _sides(wanted(last, 1)), stage_name(last))
    return HousingChoice(own, stepped, HousingPath((final,), (plan.prices.once,)))


def _sides(wanted: dict[str, Need]) -> tuple[float, float, float]:
    return sides_for(wanted) if set(SIDES) <= set(wanted) else (0.0, 0.0, 0.0)


def _with_water(box: Box, wanted: dict[str, Need]) -> Box:
    """A bought tank is filled with what its stage asks for: water never makes it too small."""
    litres = wanted["water_volume"].size if "water_volume" in wanted else 0.0
    return Box(box.length_m, box.width_m, box.height_m, max(box.water_m3, litres))
