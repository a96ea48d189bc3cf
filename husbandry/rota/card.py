"""A habitat's rota card: everything that its calendar is made of, worked out once and turned into days at will.

`compile_card` looks at the plan, the profile and the log; `expand` needs nothing but the card. A card is good until the animal
changes stage or a week has gone by: then lamps have aged and it is made anew.
"""

from dataclasses import dataclass, field, replace
from datetime import date, time, timedelta
from functools import cache
from typing import Any, Final

from pydantic import TypeAdapter

from husbandry.animal.growth_outlook import next_stage
from husbandry.animal.subject import subject_of
from husbandry.animal.targets import Target, feed_at, targets
from husbandry.diet.dusting import Dusting, Past, Product, rota
from husbandry.diet.foods import PLANTS, WHOLE_PREY, foods
from husbandry.feeding import schedule, week_food
from husbandry.feeding.history import History
from husbandry.feeding.servings import Serving, Use, powder_days, serve, servings_of, turns_given
from husbandry.inputs import ultraviolet
from husbandry.plan.habitat import HabitatPlan
from husbandry.rota.chores import Done, chores
from husbandry.species.profile import Profile
from husbandry.upkeep.feeds import Feed, FeedRule, feeds
from husbandry.upkeep.jobs import Due, Job, Run, runs
from husbandry.upkeep.recur import EveryDays

GOOD_DAYS: Final = 7
NO_MOVES: Final[dict[str, dict[date, date]]] = {}
# Chores that hang on a feed: the days after it (before it where negative).
BEFORE: Final = -1
EGGS_DAYS: Final = 3  # an egg that was not eaten is out again


@dataclass(frozen=True, slots=True)
class AfterFeeds:
    """A chore so many days after each feed that holds one of `foods`; after every feed without them."""

    key: str
    days: int
    foods: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, weakref_slot=True)
class Card:
    """The card of one habitat. `dusting_from` is the day the turns of products and parts are counted from, `offered` the
    last day of each food, `turns` the turns given last of parts that come less often.

    Where no meal was ever `recorded`, those before `made_on` count as given as planned.
    """

    feed: FeedRule
    products: tuple[Product, ...]
    dusting_from: date
    past: Past
    recorded: bool
    around: tuple[AfterFeeds, ...]
    jobs: tuple[Job, ...]
    parts: tuple[Serving, ...]
    offered: dict[str, date]
    turns: dict[str, date]
    carrying: week_food.Carrying
    dust_g: float
    time_of_day: str
    feed_at: time
    targets: tuple[Target, ...]
    uvb: bool
    made_on: date
    good_until: date

    @property
    def uses(self) -> tuple[Use, ...]:
        """What a feed takes by the long run, each food with its share of the feeds."""
        return tuple(use for part in self.parts for use in part.uses)


@dataclass(frozen=True)
class Days:
    """A stretch of one card's days: feeds, the powders and the foods on each, and chores."""

    feeds: list[Feed]
    dusting: dict[date, tuple[Dusting, ...]]
    foods: dict[date, tuple[Use, ...]]
    runs: list[Run]

    @property
    def jobs(self) -> list[Due]:
        """The chores one by one."""
        return [item for run in self.runs for item in run.each()]


def compile_card(plan: HabitatPlan, profile: Profile, today: date, history: History) -> Card:
    """Make the card of a plan as of `today`."""
    subject = subject_of(plan, profile, today)
    body, stage = subject.body, subject.stage
    uvb = ultraviolet.uvb_given(plan, stage, body, today)
    fed = week_food.fed(plan, profile, stage, body, uvb=uvb)
    following = next_stage(plan, profile, body, today, history.weighings)
    stage_to_come = None if following is None else (following[0].name, following[1])
    done = Done(history.since, _done(history), stage_to_come, history.appointments)
    good_until = today + timedelta(days=GOOD_DAYS)
    starts = plan.feeding.starts or history.since
    parts = servings_of(plan, fed, body)
    line = schedule.line_of(subject, fed, uvb=uvb, starts=starts, meals=history.meals, parts=parts)
    return Card(
        line.rule,
        line.powders,
        line.dusting_from,
        line.past,
        bool(history.meals),
        _around(plan, profile, fed),
        chores(plan, profile, body, done, today),
        parts,
        history.offered,
        turns_given(parts, tuple((meal.day, meal.foods) for meal in history.meals if meal.outcome != "skipped"), line.dusting_from),
        fed.carrying,
        fed.dust_g,
        stage.feeding.time_of_day.value,
        feed_at(plan, stage.feeding.time_of_day.value),
        targets(plan, profile, stage),
        uvb,
        today,
        good_until if following is None else max(min(good_until, following[1]), today + timedelta(days=1)),
    )


def _done(history: History) -> dict[str, date]:
    weighed = [item.day for item in history.weighings if item.mass_kg is not None]
    return history.done | ({"weigh": max(weighed)} if weighed else {})


def _around(plan: HabitatPlan, profile: Profile, fed: week_food.Fed) -> tuple[AfterFeeds, ...]:
    """What has to be done the day before a feed and after it, by what that feed holds."""
    table = foods()
    given = [item.food.partition("/")[0] for item in plan.feeding.items] or [key for part in fed.rations for key in part.meal.foods]
    known = {key: table[key] for key in given if key in table}
    land = profile.habit != "aquatic"
    lying = not plan.feeding.items and any(part.meal.fresh_days is not None for part in fed.rations)  # has a chore of its own
    wanted = (
        (AfterFeeds("gut-load", BEFORE), [key for key, food in known.items() if food.gut_load]),
        (AfterFeeds("thaw", BEFORE), [key for key, food in known.items() if food.kind in WHOLE_PREY]),
        (AfterFeeds("prey-out", 1), [key for key, food in known.items() if food.kind in WHOLE_PREY]),
        (AfterFeeds("insects-out", 1), [key for key, food in known.items() if food.kind in ("insect", "worm") and land]),
        (AfterFeeds("eggs-out", EGGS_DAYS), [key for key, food in known.items() if food.kind == "egg" and not lying]),
        (AfterFeeds("greens-out", 0), [key for key, food in known.items() if food.kind in PLANTS]),
        (AfterFeeds("powder-out", 1), [key for key, food in known.items() if food.kind == "powder"]),
    )
    every = len(known)
    return tuple(replace(item, foods=() if len(mine) == every else tuple(sorted(mine))) for item, mine in wanted if mine)


@dataclass(frozen=True)
class RoomDays:
    """As of when, on which weekdays somebody comes (0 is Monday, none means every day), and what was moved, by the chore's id."""

    today: date
    weekdays: tuple[int, ...] = ()
    moves: dict[str, dict[date, date]] = field(default_factory=dict)


def expand(card: Card, begin: date, end: date, at: RoomDays, *, daily: bool = True, contents: bool = True) -> Days:
    """Turn a card into the days from `begin` to `end` (excluded).

    Without `daily` the chores of every single day are left out, without `contents` foods and powders of the feeds. These are
    laid out from the first feed to come, so that a day says the same however far one looks.
    """
    today, weekdays, moves = at.today, at.weekdays, at.moves
    planned = _planned(card, begin, end, today, weekdays, moves)
    days = [feed.day for feed in planned]
    told = contents or any(item.foods for item in card.around)
    holds = serve(card.parts if told else (), days, card.dusting_from, card.offered, card.turns)
    dusting = dict.fromkeys(days, ()) | rota(
        powder_days(holds, card.carrying), card.products if contents else (), card.dusting_from, card.past
    )
    chain: list[Run] = []
    for job in card.jobs:
        if not daily and is_daily(job):
            continue
        chain += runs(job, begin, end, today=today, weekdays=weekdays, moves=moves.get(job.id, {}))
    for item in card.around:
        shift = timedelta(days=item.days)
        mine = tuple(day for feed in days if begin <= (day := feed + shift) < end and _hangs(item, holds[feed]))
        if mine:
            chain.append(Run(item.key, mine, mine))
    shown = [item for item in planned if begin <= item.day < end]
    holds = holds if contents else dict.fromkeys(days, ())
    return Days(shown, {item.day: dusting[item.day] for item in shown}, {item.day: holds[item.day] for item in shown}, chain)


def _hangs(item: AfterFeeds, held: tuple[Use, ...]) -> bool:
    """Tell whether a chore goes with a feed that holds this; with one of which nothing is known it does."""
    return not item.foods or not held or any(use.food.partition("/")[0] in item.foods for use in held)


def next_feed(
    card: Card, today: date, days: int, weekdays: tuple[int, ...] = (), moves: dict[str, dict[date, date]] = NO_MOVES
) -> date | None:
    """Return the first feed from today on within so many days, the same that `expand` gives; None where there is none."""
    planned = _planned(card, today, today + timedelta(days=days), today, weekdays, moves)
    return next((item.day for item in planned if today <= item.day < today + timedelta(days=days)), None)


def _planned(
    card: Card, begin: date, end: date, today: date, weekdays: tuple[int, ...], moves: dict[str, dict[date, date]]
) -> list[Feed]:
    """The feeds from the first to come to a little beyond `end`, so that a day says the same however far one looks."""
    first, last = min(begin, today if card.recorded else card.made_on), end + timedelta(days=2)
    return feeds(card.feed, first, last, today=today if card.recorded else None, weekdays=weekdays, moves=moves.get("feed", {}))


def is_daily(job: Job) -> bool:
    """Tell whether a chore comes every single day."""
    return isinstance(job.rule, EveryDays) and job.rule.days == 1


@cache
def _adapter() -> TypeAdapter[Card]:
    return TypeAdapter(Card)


def to_data(card: Card) -> dict[str, Any]:
    """The card as JSON data."""
    data: dict[str, Any] = _adapter().dump_python(card, mode="json")
    return data


def from_data(data: dict[str, Any]) -> Card:
    """The card out of its JSON data; raises pydantic.ValidationError for data of another shape."""
    return _adapter().validate_python(data)
