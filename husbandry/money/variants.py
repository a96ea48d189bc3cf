"""Variants of a plan that cost something else: insulated, LED or halogen, a panel for a mat; and what they worsen."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from typing import Any, Final

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assessment import Change, Quantity, Severity, Verdict
from husbandry.climate.heaters import HEATERS
from husbandry.light.visible import EFFICACY
from husbandry.money.years import BOARD_M
from husbandry.plan.editing import apply
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import PlanProblems, read_data
from husbandry.species.profile import Profile

INSULATED_M: Final = 0.01  # from which there is insulation already
BELOW_LID_M: Final = 0.03
LYING: Final = ("mat", "wall-mat", "cable")
BULBS: Final = ("reflector-flood", "reflector-spot")
LIT_BULBS: Final = (*BULBS, "halogen-flood")
BAR_M: Final = 0.3  # lit length of a short LED bar
OFF: Final = (Verdict.OUTSIDE, Verdict.DANGEROUS)


@dataclass(frozen=True)
class Variant:
    """One variant, by its `code`: what it changes, the plan it makes, and what of the animal's climate then stands worse.

    `endangers` where it brings a danger that the plan has not: it is told, and not to be made.
    """

    code: str
    changes: tuple[Change, ...]
    plan: HabitatPlan
    worse: tuple[Quantity, ...]
    endangers: bool


def variants(plan: HabitatPlan, profile: Profile, today: date) -> tuple[Variant, ...]:
    """Return the variants a plan has, each judged by the animal's bands.

    Parameters
    ----------
    plan, profile, today
        The habitat, its species, and the day for the animal's stage.

    Returns
    -------
    Variant; none that leaves no plan.

    References
    ----------
    Each is assessed as the plan itself is (`husbandry.assess.assess`).
    """
    before = assess(plan, profile, today, depth=NO_DAYS)
    was = {item.id: item for item in before.quantities}
    dangers = {finding.code for finding in before.findings if finding.severity is Severity.DANGER}
    found = []
    for code, changes, made in tried(plan):
        after = assess(made, profile, today, depth=NO_DAYS)
        worse = tuple(item for item in after.quantities if item.verdict in OFF and _better(was.get(item.id), item))
        new = {finding.code for finding in after.findings if finding.severity is Severity.DANGER} - dangers
        found.append(Variant(code, changes, made, worse, bool(new)))
    return tuple(found)


def tried(plan: HabitatPlan) -> Iterator[tuple[str, tuple[Change, ...], HabitatPlan]]:
    """Yield the variants a plan has, not judged yet: the code, the changes, the plan they make; none that leaves no plan."""
    document = plan.model_dump(mode="json")
    for code, changes in _tried(plan):
        try:
            yield code, changes, read_data(apply(document, changes))
        except (PlanProblems, KeyError, IndexError):
            continue


def _better(was: Quantity | None, now: Quantity) -> bool:
    """Tell whether something stood better before."""
    return was is not None and was.verdict is not Verdict.UNKNOWN and (was.verdict not in OFF or was.verdict is not now.verdict)


def _tried(plan: HabitatPlan) -> Iterator[tuple[str, tuple[Change, ...]]]:
    box = plan.enclosure
    if box.insulation_m < INSULATED_M and box.kind not in ("mesh", "open-table") and plan.outdoors is None:
        yield "insulated", (Change("enclosure.insulation_m", BOARD_M),)
    tubes = [place for place, bar in enumerate(plan.light_bars) if bar.kind == "t5-white"]
    if tubes:
        share = EFFICACY["t5-white"] / EFFICACY["led-bar"]
        changed = [
            change
            for place in tubes
            for change in (
                Change(f"light_bars.{place}.kind", "led-bar"),
                Change(f"light_bars.{place}.watts", round(share * plan.light_bars[place].watts, 1)),
            )
        ]
        yield "led", tuple(changed)
    bulbs = [place for place, heater in enumerate(plan.heaters) if heater.kind in BULBS]
    if bulbs:
        yield "halogen", tuple(change for place in bulbs for change in _as_warm(plan, place, "halogen-flood"))
    lit = [place for place, heater in enumerate(plan.heaters) if heater.kind in LIT_BULBS]
    if lit:
        yield "led-and-projector", tuple(change for turn, place in enumerate(lit) for change in _parted(plan, place, turn))
    lying = [place for place, heater in enumerate(plan.heaters) if heater.kind in LYING and HEATERS[heater.kind].place != "over"]
    if lying and box.lid == "solid":
        yield "panel", tuple(Change(f"heaters.{place}", _as_panel(plan, place)) for place in lying)


def _as_warm(plan: HabitatPlan, place: int, kind: str) -> tuple[Change, ...]:
    """A lamp of another kind that radiates as much."""
    heater = plan.heaters[place]
    watts = heater.watts * HEATERS[heater.kind].radiant_share / HEATERS[kind].radiant_share
    return Change(f"heaters.{place}.kind", kind), Change(f"heaters.{place}.watts", round(watts, 1))


def _parted(plan: HabitatPlan, place: int, turn: int) -> Iterator[Change]:
    """A bulb's warmth from an infrared projector, and its light from an LED bar, as bright, on the same hours."""
    heater, kind = plan.heaters[place], "infrared-projector"
    bar = {
        "kind": "led-bar",
        "watts": round(EFFICACY[heater.kind] / EFFICACY["led-bar"] * heater.watts, 1),
        "length_m": min(BAR_M, plan.enclosure.length_m),
    }
    hung = heater.model_dump(mode="json", include={"on", "off", "x_m", "y_m", "height_m"})
    yield from _as_warm(plan, place, kind)
    yield Change(f"light_bars.{len(plan.light_bars) + turn}", bar | hung)


def _as_panel(plan: HabitatPlan, place: int) -> dict[str, Any]:
    """A mat as a radiant panel below the lid, held at the same temperature by the air of the warm end."""
    heater = plan.heaters[place]
    held = heater.thermostat
    thermostat = held.model_dump(mode="json") | {"probe": "warm-air" if held.probe == "mat" else held.probe}
    return heater.model_dump(mode="json") | {
        "kind": "radiant-panel",
        "height_m": round(plan.enclosure.height_m - BELOW_LID_M, 3),
        "length_m": None,
        "guarded": True,
        "thermostat": thermostat,
    }
