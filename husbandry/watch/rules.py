"""Rules over the log of one animal. Each is silent where the log is too thin to tell: nothing is guessed.

Where a rule has no published source it stands on the animal's own line: its own weights, its own sheds, its own droppings.
"""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from itertools import pairwise
from statistics import median
from typing import Final, Literal

from husbandry.assessment import Measure, Parameter
from husbandry.codes import WatchCode
from husbandry.diet.refusals import Without
from husbandry.feeding.appetite import DISH_DAYS, RestLoss, dish_emptied_often

Level = Literal["vet", "look", "measure"]
ORDER: Final[Mapping[Level, int]] = {"vet": 0, "measure": 1, "look": 2}  # what waits least comes first

LOST_SHARE: Final = 0.10  # of its weight lost within a month or so: a reptile veterinarian (common practice, no source)
AGREES_SHARE: Final = 0.05  # that the weighing before has to be below its line too, for a single one errs
LOST_AT_ONCE: Final = 0.20  # a loss so large that it is told of one weighing alone
LINE_DAYS, LINE_LEAST, LINE_MOST = 200, 3, 6  # of the weighings that make its own line
RECENT_DAYS: Final = 45  # a weighing older than that says nothing of today
SHEDS_LEAST, SHED_FACTOR = 3, 2.0  # sheds that make a rhythm; a pause of so many times its own is told
STUCK_DAYS: Final = 200
DROPPINGS_LEAST, DROPPINGS_FACTOR, DROPPINGS_DAYS = 5, 3.0, 6.0
BEHAVED_DAYS, BEHAVED_TIMES = 14, 2  # seen so often within so many days
BROUGHT_UP_DAYS: Final = 60
SIGN_DAYS: Final = 10
GRAVID_DAYS: Final = 60  # that eggs are carried after they were felt or seen, at most (common practice, no source)
OVERDUE_DAYS: Final = 10  # past the end of its hatch window
WAITING_DAYS: Final = 21  # for the result of a sample
BEHAVIOUR: Final[Mapping[str, WatchCode]] = {
    "basks-all-day": WatchCode.BASKS_ALL_DAY,
    "never-basks": WatchCode.NEVER_BASKS,
    "always-cool-end": WatchCode.ALWAYS_COOL,
    "shuts-eyes": WatchCode.SHUTS_EYES,
}


@dataclass(frozen=True)
class Shed:
    """A shed on a day; `stuck` where skin stayed on."""

    day: date
    stuck: bool = False


@dataclass(frozen=True)
class Noted:
    """Something with a name on a day: a behaviour, a sign, a sample."""

    day: date
    what: str


@dataclass(frozen=True)
class Lived:
    """What the log tells of one animal, each oldest first. Masses in kg.

    `without` and `rest` are what `feeding.appetite` makes of its meals and weighings; `answered` is the last day on which a
    treatment or a veterinarian's word was written; `waiting` are samples without a result, `courses` treatments by their last day;
    `gravid` since when it carries eggs, `hatch_latest` the last day of the window of a clutch of which nothing hatched.
    """

    masses: Sequence[tuple[date, float]] = ()
    sheds: Sequence[Shed] = ()
    droppings: Sequence[date] = ()
    last_eaten: date | None = None
    brought_up: Sequence[date] = ()
    dish_filled: Sequence[date] = ()
    behaved: Sequence[Noted] = ()
    signs: Sequence[Noted] = ()
    answered: date | None = None
    waiting: Sequence[Noted] = ()
    courses: Sequence[Noted] = ()
    gravid: date | None = None
    hatch_latest: date | None = None
    without: Without | None = None
    rest: RestLoss | None = None


@dataclass(frozen=True)
class Alarm:
    """Something to look at. `since` is the day it began, and with the code what tells one occurrence from the next.

    `level` is "vet" for what belongs to a reptile veterinarian, "measure" where a reading tells more, "look" for the rest.
    """

    code: WatchCode
    level: Level
    since: date
    parameters: Mapping[str, Parameter] = field(default_factory=dict)

    @property
    def key(self) -> str:
        return f"{self.code.value}/{self.since.isoformat()}"


def watched(lived: Lived, today: date) -> list[Alarm]:
    """Return what the log shows on a day, what belongs to a veterinarian first."""
    return sorted((alarm for rule in RULES for alarm in rule(lived, today)), key=lambda alarm: ORDER[alarm.level])


def usual_weight(masses: Sequence[tuple[date, float]]) -> float | None:
    """What an animal weighed before its last weighing, by its own line.

    Parameters
    ----------
    masses
        Weighings, oldest first: the day and kg.

    Returns
    -------
    kg, the median of up to `LINE_MOST` weighings of the `LINE_DAYS` before the last; None for fewer than `LINE_LEAST`.
    """
    if len(masses) < LINE_LEAST + 1:
        return None
    last = masses[-1][0]
    line = [mass for day, mass in masses[:-1] if (last - day).days <= LINE_DAYS][-LINE_MOST:]
    if len(line) < LINE_LEAST:
        return None
    # The weighing that has to agree with the last one is no part of the line both are held against.
    return median(line[:-1]) if len(line) > LINE_LEAST else median(line)


def weight(lived: Lived, today: date) -> Iterator[Alarm]:
    """A loss against its own line: the median of the weighings before, which a full stomach or a slip does not move.

    Two weighings have to agree, or one has to be far off; one alone asks for another. In a rest the rest's own limit holds.
    """
    if lived.rest is not None:
        if lived.rest.over or lived.rest.fast:
            told: dict[str, Parameter] = {
                "lost": Measure(lived.rest.lost_percent, "%"),
                "limit": Measure(lived.rest.limit_percent, "%"),
            }
            yield Alarm(WatchCode.REST_LOSS, "vet", lived.rest.last, told)
        return
    usual_kg = usual_weight(lived.masses)
    if usual_kg is None or (today - lived.masses[-1][0]).days > RECENT_DAYS:
        return
    (_day, before_kg), (last_day, last_kg) = lived.masses[-2:]
    lost = 1 - last_kg / usual_kg
    if lost < LOST_SHARE:
        return
    said: dict[str, Parameter] = {"lost": Measure(100 * lost, "%"), "usual": Measure(usual_kg, "kg"), "now": Measure(last_kg, "kg")}
    agreed = 1 - before_kg / usual_kg >= AGREES_SHARE
    if agreed or lost >= LOST_AT_ONCE:
        yield Alarm(WatchCode.WEIGHT_LOST, "vet", last_day, said)
    else:
        yield Alarm(WatchCode.WEIGHT_AGAIN, "measure", last_day, said)


def food(lived: Lived, today: date) -> Iterator[Alarm]:
    """Refusals past what is normal for it now, meals brought up, a calcium dish that is emptied again and again."""
    without = lived.without
    if without is not None and without.vet:
        told: dict[str, Parameter] = {"days": float(without.days), "normal": float(without.normal_days)}
        yield Alarm(WatchCode.REFUSED_LONG, "vet", lived.last_eaten or today, told)
    recent = [day for day in lived.brought_up if (today - day).days <= BROUGHT_UP_DAYS]
    if len(recent) >= 2:
        yield Alarm(WatchCode.BROUGHT_UP_TWICE, "vet", recent[-1], {"times": float(len(recent)), "within": float(BROUGHT_UP_DAYS)})
    if dish_emptied_often(lived.dish_filled, today):
        yield Alarm(WatchCode.DISH_EMPTIED, "look", lived.dish_filled[-1], {"days": float(DISH_DAYS)})


def skin(lived: Lived, today: date) -> Iterator[Alarm]:
    """A shed that stays out against its own rhythm; skin that stays on twice."""
    days = [shed.day for shed in lived.sheds]
    gaps = [(later - earlier).days for earlier, later in pairwise(days)]
    if len(gaps) >= SHEDS_LEAST - 1:
        usual, since = median(gaps), (today - days[-1]).days
        if usual > 0 and since > SHED_FACTOR * usual:
            yield Alarm(WatchCode.SHED_OVERDUE, "look", days[-1], {"days": float(since), "usual": float(usual)})
    stuck = [shed.day for shed in lived.sheds[-3:] if shed.stuck and (today - shed.day).days <= STUCK_DAYS]
    if len(stuck) >= 2:
        yield Alarm(WatchCode.SHED_STUCK_TWICE, "measure", stuck[-1], {"times": float(len(stuck))})


def droppings(lived: Lived, today: date) -> Iterator[Alarm]:
    """No droppings for far longer than its own rhythm, though it ate meanwhile."""
    days = sorted(set(lived.droppings))
    if len(days) < DROPPINGS_LEAST or lived.last_eaten is None or lived.last_eaten < days[-1]:
        return
    usual = median((later - earlier).days for earlier, later in pairwise(days))
    since = (today - days[-1]).days
    if since > max(DROPPINGS_FACTOR * usual, DROPPINGS_DAYS):
        yield Alarm(WatchCode.DROPPINGS_MISSING, "vet", days[-1], {"days": float(since), "usual": float(usual)})


def behaviour(lived: Lived, today: date) -> Iterator[Alarm]:
    """A behaviour that was seen again and again of late; each has a reading that tells its causes apart."""
    recent = [noted for noted in lived.behaved if (today - noted.day).days <= BEHAVED_DAYS]
    for what, code in BEHAVIOUR.items():
        days = [noted.day for noted in recent if noted.what == what]
        if len(days) >= BEHAVED_TIMES:
            yield Alarm(code, "measure", days[0], {"times": float(len(days)), "days": float(BEHAVED_DAYS)})


def health(lived: Lived, today: date) -> Iterator[Alarm]:
    """A sign that nobody answered yet, a course that has ended, a sample whose result stays out."""
    for sign in lived.signs:
        if (today - sign.day).days <= SIGN_DAYS and (lived.answered is None or lived.answered < sign.day):
            yield Alarm(WatchCode.SIGN_OPEN, "vet", sign.day, {"sign": sign.what})
    for course in lived.courses:
        if 0 <= (today - course.day).days <= SIGN_DAYS:
            yield Alarm(WatchCode.COURSE_ENDED, "look", course.day, {"what": course.what})
    for sample in lived.waiting:
        if (today - sample.day).days > WAITING_DAYS:
            yield Alarm(
                WatchCode.RESULT_WAITING, "look", sample.day, {"what": sample.what, "days": float((today - sample.day).days)}
            )


def breeding(lived: Lived, today: date) -> Iterator[Alarm]:
    """Eggs carried too long, a clutch past its window."""
    if lived.gravid is not None and (today - lived.gravid).days > GRAVID_DAYS:
        yield Alarm(WatchCode.GRAVID_LONG, "vet", lived.gravid, {"days": float((today - lived.gravid).days)})
    if lived.hatch_latest is not None and (today - lived.hatch_latest).days > OVERDUE_DAYS:
        yield Alarm(WatchCode.CLUTCH_OVERDUE, "look", lived.hatch_latest, {"days": float((today - lived.hatch_latest).days)})


RULES: Final[tuple[Callable[[Lived, date], Iterator[Alarm]], ...]] = (weight, food, skin, droppings, behaviour, health, breeding)
