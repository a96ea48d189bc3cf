"""Two kinds in one enclosure: each is assessed by its own profile, and what it costs them is told."""

from dataclasses import dataclass
from datetime import date
from typing import Final, Literal

from husbandry.assess.assess import NO_RECORDS, Depth, assess
from husbandry.assess.result import Assessment
from husbandry.assessment import Band, Finding, Quantity, Severity, Verdict
from husbandry.plan.habitat import Animal, HabitatPlan
from husbandry.species.profile import Profile

# What both live in at the same time; what only one of them uses (its feeds, its own hide) is no matter between them.
SHARED: Final = (
    *("basking_surface", "warm_air", "cool_air", "water_temperature"),
    *("warm_humidity", "cool_humidity", "uv_back", "light_hours"),
)
FED_APART: Final = "food"  # the newcomer gets a menu of its own
# One that is less than half as long as another is looked at as prey, or is hurt by it (common practice, no source).
PREY_SHARE: Final = 0.5


@dataclass(frozen=True)
class BandPair:
    """One quantity as both want it; `shared` is what suits both, (low, high) with None for an open end, None where nothing does."""

    ours: Quantity
    theirs: Quantity
    shared: tuple[float | None, float | None] | None

    @property
    def held(self) -> bool:
        """Tell whether the enclosure as it stands gives both what they want."""
        return self.ours.verdict is Verdict.INSIDE and self.theirs.verdict is Verdict.INSIDE


@dataclass(frozen=True)
class Mixing:
    """What living together costs two kinds.

    `bands` are the quantities that both want; `dangers` what would endanger the newcomer in this enclosure, `wrongs` what is wrong
    in it for the newcomer. `larger` is who is more than twice as long, "" where neither is or a length is not known.
    """

    bands: tuple[BandPair, ...]
    dangers: tuple[Finding, ...]
    wrongs: tuple[Finding, ...]
    larger: Literal["", "ours", "theirs"]

    @property
    def apart(self) -> tuple[BandPair, ...]:
        """The quantities whose bands do not meet: one of both is always outside."""
        return tuple(pair for pair in self.bands if pair.shared is None)

    @property
    def possible(self) -> bool:
        """Tell whether nothing here rules it out; that both stay well is not promised by it."""
        return not self.apart and not self.dangers and not self.larger


def mixed(plan: HabitatPlan, profile: Profile, newcomer: Animal, other: Profile, today: date) -> Mixing:
    """Judge another kind in an enclosure that is planned for one.

    Parameters
    ----------
    plan, profile
        The enclosure as it stands, and the kind it is planned for.
    newcomer, other
        The animal that would come to live in it, and its own profile.
    today
        The day both are assessed on.

    Returns
    -------
    The bands of both, what endangers the newcomer, and who is much the larger.
    """
    depth = Depth(days_of=(), spread=False, hanging=False, propose=False, only=frozenset())
    theirs_plan = plan.model_copy(update={"species": other.id, "animal": newcomer, "schools": _known(plan, other)})
    ours, theirs = assess(plan, profile, today, NO_RECORDS, depth), assess(theirs_plan, other, today, NO_RECORDS, depth)
    already = {item.id for item in ours.findings}
    fresh = tuple(item for item in theirs.findings if item.id not in already)
    return Mixing(
        _pairs(ours, theirs),
        tuple(item for item in theirs.findings if item.severity is Severity.DANGER),
        tuple(item for item in fresh if item.severity is Severity.WRONG and item.step != FED_APART),
        _larger(ours, theirs),
    )


def _known(plan: HabitatPlan, other: Profile) -> dict[str, str]:
    """The plan's schools as far as the other kind's book knows them."""
    topics = other.topics()
    return {topic: school for topic, school in plan.schools.items() if school in topics.get(topic, ())}


def _pairs(ours: Assessment, theirs: Assessment) -> tuple[BandPair, ...]:
    by_id = {item.id: item for item in theirs.quantities if item.band is not None}
    found = []
    for item in ours.quantities:
        other = by_id.get(item.id)
        if item.key in SHARED and item.band is not None and other is not None and other.band is not None:
            found.append(BandPair(item, other, _shared(item.band, other.band)))
    return tuple(found)


def _shared(one: Band, other: Band) -> tuple[float | None, float | None] | None:
    """What lies in both bands; None where they do not meet, or in one point that nobody can hold."""
    low = max((edge for edge in (one.low, other.low) if edge is not None), default=None)
    high = min((edge for edge in (one.high, other.high) if edge is not None), default=None)
    return None if low is not None and high is not None and low >= high else (low, high)


def _larger(ours: Assessment, theirs: Assessment) -> Literal["", "ours", "theirs"]:
    one, other = ours.body.length_m, theirs.body.length_m
    if one is None or other is None or PREY_SHARE <= one / other <= 1 / PREY_SHARE:
        return ""
    return "ours" if one > other else "theirs"
