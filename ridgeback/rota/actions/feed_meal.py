"""Writing a meal down."""

from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import Any, Final

from django.utils import timezone

from husbandry.rota.card import RoomDays
from ridgeback.daybook import log
from ridgeback.daybook.actions.do_chores import NoSuchOutcomeError
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.language import dates, rotawords
from ridgeback.pantry import store
from ridgeback.rooms.models import Habitat
from ridgeback.rota import cards, history, menu

OUTCOMES: Final = ("eaten", "part", "refused", "skipped")


@dataclass(frozen=True)
class Told:
    """What is told of a meal: the feed it was due as, the powders that went on it (None: as planned), and what else is known."""

    outcome: str
    due: date | None = None
    products: tuple[str, ...] | None = None
    more: dict[str, Any] = field(default_factory=dict)


def feed_meal(
    habitat_id: int, intent: Intent, at: datetime, today: date, told: Told, who: Callable[[Habitat], dict[str, Any]] | None = None
) -> Event:
    """Write a meal down and take it out of the store; what was refused is gone too, for nobody freezes it again.

    `told.due` is the feed the page showed: once it is written down it is not written again. `who` tells who of the group
    ate, of the habitat as it stands. Raises NoSuchOutcomeError, AlreadyWritten, Refused.
    """
    if told.outcome not in OUTCOMES:
        raise NoSuchOutcomeError(told.outcome)
    with writing(intent, [habitat_id]):
        habitat = Habitat.objects.select_related("company", "room", "head__profile", "rota_card").get(pk=habitat_id)
        if told.due is not None:
            _refuse_twice(habitat, told.due)
        return _write(habitat, intent, at, today, told, who(habitat) if who else {})


def _refuse_twice(habitat: Habitat, due: date) -> None:
    before = (
        Event.objects.filter(habitat=habitat, kind=Event.Kind.FED, payload__due=due.isoformat())
        .select_related("author")
        .order_by("-at", "-id")
        .first()
    )
    if before is not None:
        said = {
            "outcome": str(rotawords.OUTCOMES[before.payload["outcome"]]),
            "at": dates.shown(timezone.localtime(before.at), "j M H:i"),
            "who": before.author.username if before.author else "–",
        }
        raise Refused("fed_already", **said)


def _write(habitat: Habitat, intent: Intent, at: datetime, today: date, told: Told, who: dict[str, Any]) -> Event:
    card = cards.of_habitats([habitat], today)[habitat.pk]
    moves = history.moves_of([habitat.pk], today)[habitat.pk]
    ahead = cards.span(card, today, menu.AHEAD_DAYS, RoomDays(today, tuple(habitat.room.weekdays), moves))
    # A meal on a day without one is the next one, given early.
    first = ahead.feeds[0] if ahead.feeds else None
    day = first.day if first else today
    planned = [item.product.name for item in ahead.dusting.get(day, ())]
    known = {item.name for item in card.products}
    products = planned if told.products is None else [name for name in told.products if name in known]
    due = told.due or (first.due if first and day == today else today)
    foods = menu.taken(ahead.foods.get(day, ()))
    offered = told.outcome != "skipped"
    payload: dict[str, Any] = {"outcome": told.outcome, "due": due.isoformat(), "products": [], "foods": []}
    if offered:
        payload |= {"products": products, "foods": foods}
        payload |= {name: value for name, value in (told.more | who).items() if value is not None}
    event = log.fed(habitat, at, intent.author, **payload)
    if offered:
        powders: list[tuple[str, float | None, float]] = [(name, None, card.dust_g / len(products)) for name in products]
        store.for_meal(habitat.room, [*foods, *powders], at, event)
    return event
