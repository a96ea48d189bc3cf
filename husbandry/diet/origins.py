"""Where the numbers of a profile come from, counted: what stands in a table, what is held against one, practice, estimate.

A ration is nobody's published number. And yet it is held against published ones: calcium over phosphorus, vitamins and energy of
the food by its tables of composition, and of lizards and snakes what they burn by two equations; so are the ends of an enclosure
where it is known which body temperature an animal keeps. That is a kind of its own here.
"""

from collections import Counter
from collections.abc import Iterator
from typing import Final, NamedTuple

from husbandry.diet import energy
from husbandry.species import tables
from husbandry.species.leaves import Leaf
from husbandry.species.profile import Profile, leaves_with_paths

# In the order they are shown: the nearer to a source the earlier.
KINDS: Final = ("table", "paper", "held", "practice", "memory", "estimate", "keeper")
BY_COMPOSITION: Final = "feeding.supplements"  # powders: calcium, phosphorus and vitamins of the week, every species
BY_ENERGY: Final = ("feeding.meals", "feeding.interval_days")  # amounts: energy, where an equation serves
PREFERRED: Final = "preferred-temperatures"
BY_PREFERENCE: Final = ("heat.basking_surface_c", "heat.warm_air_c", "heat.cool_air_c")  # the body temperature it chooses
UNJUDGED: Final = ("eggs",)  # diets whose minerals no sum judges


class Origin(NamedTuple):
    """A value's path, its kind, how many numbers it has, and the table it hangs on ("" for none)."""

    path: str
    kind: str
    numbers: int
    table: str


def origins(profile: Profile) -> Iterator[Origin]:
    """Yield where every value with numbers comes from."""
    for path, leaf in leaves_with_paths(profile):
        count = len(leaf.numbers)
        if count:
            dotted = ".".join(str(step) for step in path if isinstance(step, str))
            chosen = PREFERRED if not leaf.table and _by_preference(profile, dotted) else leaf.table.partition(":")[0]
            yield Origin(dotted, kind_of(profile, dotted, leaf), count, chosen)


def kind_of(profile: Profile, path: str, leaf: Leaf) -> str:
    """Return one of `KINDS`."""
    if leaf.table:
        return "table"
    if leaf.basis == "source":
        return "paper"
    if leaf.basis in ("practice", "memory") and is_held(profile, path):
        return "held"
    return leaf.basis


def is_held(profile: Profile, path: str) -> bool:
    """Tell whether a test of the book holds this value against published numbers."""
    if _by_preference(profile, path):
        return True
    if path.endswith(BY_COMPOSITION):
        return profile.diet not in UNJUDGED
    return path.endswith(BY_ENERGY) and energy.can_answer(profile.group)


def _by_preference(profile: Profile, path: str) -> bool:
    return path.endswith(BY_PREFERENCE) and profile.id in tables.tables()[PREFERRED].rows


def counted(profile: Profile) -> dict[str, int]:
    """Return how many numbers of each kind a profile has, every kind named.

    Parameters
    ----------
    profile
        A species.

    Returns
    -------
    Counts by kind, in the order of `KINDS`.

    References
    ----------
    The profile's own bases.
    """
    found: Counter[str] = Counter()
    for item in origins(profile):
        found[item.kind] += item.numbers
    return {kind: found[kind] for kind in KINDS}
