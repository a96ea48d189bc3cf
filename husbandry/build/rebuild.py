"""A rebuild: only the steps that something new hangs on, out of the difference between the plan that stands and the new one."""

from dataclasses import replace
from typing import Final

from husbandry.build.graph import Graph, graph
from husbandry.build.kinds import ANIMAL_IN, TEST_RUN, steps
from husbandry.build.settings import BuildSettings
from husbandry.build.work import Amount, Step, work
from husbandry.inputs.grounds import ground_bill
from husbandry.plan.habitat import HabitatPlan

# What has to be done again where one of these is: the check after anything on the mains, the airing after glue.
FOLLOWS: Final[dict[str, tuple[str, ...]]] = {
    "electrics-check": ("heaters", "mats", "lights", "misting", "probes", "cable-ways", "water"),
    TEST_RUN: ("heaters", "mats", "lights", "misting", "openings", "ground", "water", "background-foam", "background-glue"),
    "airing": ("seal", "disinfect", "background-glue", "background-paint", "background-coir"),
    "sealed": ("seal",),
    "planted": ("plants",),
    "settle": ("ground",),
    "cycle": ("water",),
    "crew": ("litter",),
}
# What cannot be kept where one of these is done anew: what lies on it comes out, and in again.
LIES_ON: Final[dict[str, tuple[str, ...]]] = {
    "disinfect": ("barrier", "footings", "ground", "water"),
    "barrier": ("footings", "ground"),
    "footings": ("ground",),
    "mats": ("ground",),
    "ground": ("furniture", "plants", "litter"),
    "background-cut": ("background-glue",),
    "background-glue": ("background-foam", "fixings"),
    "background-foam": ("background-carve",),
    "background-carve": ("background-coat", "background-coir"),
    "background-coat": ("background-paint",),
}


def rebuild(before: HabitatPlan, after: HabitatPlan, settings: BuildSettings) -> Graph:
    """Return the steps from an enclosure that stands to the one that is planned; none but the last where nothing differs.

    Parameters
    ----------
    before, after
        The plan that it was built by, and the new one.
    settings
        How it is rebuilt; with `second_hand` it is emptied, washed and disinfected twice.

    Returns
    -------
    Graph: the animal is out before the first and in after the last.

    References
    ----------
    Common practice, no source.
    """
    stood = {(step.kind, step.rests_on, step.of) for step in work(before, settings)}
    wanted = {step.key for step in work(after, settings) if step.rests_on and (step.kind, step.rests_on, step.of) not in stood}
    new = work(after, settings)
    kinds = {step.kind for step in new if step.key in wanted}
    gone = _gone(before, after, settings)
    used = {"inspect", "wash", "disinfect"} if settings.second_hand else set()
    again = _spread(kinds | gone | used)
    if "stand" in kinds:
        again = {step.kind for step in new}  # another enclosure: nothing of the old one is fitted in it
    keep = {
        step.key for step in new if step.key in wanted or step.kind in again or step.kind == ANIMAL_IN or step.kind == "quarantine"
    }
    whole = graph(after, settings)
    left = whole.without({step.key for step in whole.steps if step.key not in keep and not step.own})
    if len(left.steps) <= 1 and not gone:
        return left
    return _with_first(left, _taken_out(before, gone | again))


def _spread(kinds: set[str]) -> set[str]:
    """The kinds that have to be done again because of some."""
    found = set(kinds)
    while True:
        more = {other for kind in found for other in LIES_ON.get(kind, ())}
        more |= {kind for kind, because in FOLLOWS.items() if found & set(because)}
        if more <= found:
            return found
        found |= more


def _gone(before: HabitatPlan, after: HabitatPlan, settings: BuildSettings) -> set[str]:
    """The kinds of which something that stood is not in the new plan."""
    new = {(step.kind, step.rests_on, step.of) for step in work(after, settings)}
    return {step.kind for step in work(before, settings) if step.rests_on and (step.kind, step.rests_on, step.of) not in new}


def _taken_out(before: HabitatPlan, kinds: set[str]) -> Step:
    """Taking out what has to go: the old ground by the litre where it goes."""
    litres = ground_bill(before).whole.settled_l if "ground" in kinds else 0.0
    amounts = (Amount("old-ground", round(litres, 1), "L"),) if litres else ()
    about = steps()["take-out"]
    return Step("take-out", "take-out", float(5 * round((about.minutes + about.each * litres / 10) / 5)), amounts=amounts)


def _with_first(found: Graph, first: Step) -> Graph:
    """The same with one step before all others."""
    before = {key: (value if value else frozenset({first.key})) for key, value in found.before.items()}
    return replace(found, steps=(first, *found.steps), before=before | {first.key: frozenset()})
