"""Finding anything: habitats, animals, species, what was written down, food, instruments, the handbook and every page."""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, replace
from typing import Any, Final

from django.db.models import Q
from django.urls import reverse
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from rapidfuzz import fuzz
from rapidfuzz.utils import default_process

from ridgeback.accounts.models import Keeper
from ridgeback.book import catalogue
from ridgeback.daybook.log import day_of
from ridgeback.daybook.models import Event, Instrument
from ridgeback.handbook import reading
from ridgeback.keeping.names import kind_names
from ridgeback.language import dates
from ridgeback.language.booktext import book
from ridgeback.language.foodwords import prey
from ridgeback.language.glossary import WORDS
from ridgeback.pantry.models import Item
from ridgeback.rooms.access import rooms_of
from ridgeback.rooms.models import Animal, Habitat

LIKE: Final = 72.0  # of 100: a word that is a little misspelt
MOST: Final = 24
MOST_OF_A_KIND: Final = 8
MOST_ROWS: Final = 5000  # names looked through by likeness; a larger room is searched by letters alone
LEAST_LETTERS: Final = 2
NOTE_LETTERS: Final = 90
# The program's own pages, with other words they are looked for by.
PAGES: Final[tuple[tuple[str, Any, Any], ...]] = (
    ("rooms:habitats", gettext_lazy("Habitats"), gettext_lazy("list enclosures terrariums start home")),
    ("rooms:new", gettext_lazy("New habitat"), gettext_lazy("plan an enclosure first plan terrarium")),
    ("reviewing:review", gettext_lazy("Review what stands there"), gettext_lazy("check my set-up what is wrong")),
    ("rooms:import", gettext_lazy("Import a plan"), gettext_lazy("JSON document file")),
    ("keeping:round", gettext_lazy("Round"), gettext_lazy("today due tasks chores")),
    ("keeping:animals", gettext_lazy("Animals"), gettext_lazy("list of animals")),
    ("keeping:watch", gettext_lazy("Watch"), gettext_lazy("notices alarms warnings")),
    ("rota:calendar", gettext_lazy("Calendar"), gettext_lazy("week month feeding days")),
    ("rota:share", gettext_lazy("Share the calendar"), gettext_lazy("subscribe phone iCalendar")),
    ("pantry:shelf", gettext_lazy("Pantry"), gettext_lazy("food stock freezer shopping")),
    ("pantry:cultures", gettext_lazy("Cultures"), gettext_lazy("feeder insects breeding greens gut-load")),
    ("book:shelf", gettext_lazy("Species"), gettext_lazy("book profiles")),
    ("book:compare", gettext_lazy("Compare two species"), gettext_lazy("difference")),
    ("book:sources", gettext_lazy("Where the numbers come from"), gettext_lazy("sources citations")),
    ("daybook:instruments", gettext_lazy("Instruments"), gettext_lazy("thermometer hygrometer UV meter scale calibration")),
    ("accounts:account", gettext_lazy("Your account"), gettext_lazy("units password letters language settings")),
    ("api:reference", gettext_lazy("What a program can ask for"), gettext_lazy("API developers")),
    ("handbook:contents", gettext_lazy("Handbook"), gettext_lazy("help manual guide")),
    ("handbook:words", gettext_lazy("Words of the trade"), gettext_lazy("glossary meaning")),
)


@dataclass(frozen=True)
class Hit:
    """Something found: what it is, its title, a line about it, where it is, and how well it fits (to 100)."""

    kind: str
    title: str
    about: str
    address: str
    fit: float = 0.0


def search(keeper: Keeper, query: str) -> list[Hit]:
    """What a keeper may see that fits some words, the best first; nothing for fewer than two letters."""
    query = " ".join(query.split())[:80]
    if len(query) < LEAST_LETTERS:
        return []
    rooms = [room.pk for room in rooms_of(keeper)]
    found: list[Hit] = []
    for of_kind in SOURCES:
        fitting = sorted(of_kind(rooms, query), key=lambda hit: -hit.fit)
        found += fitting[:MOST_OF_A_KIND]
    return sorted(found, key=lambda hit: -hit.fit)[:MOST]


def fit(query: str, title: str, more: str = "") -> float:
    """How well a title fits some words, to 100: whole and at its beginning best, then within, then in `more`, then misspelt."""
    plain, name = default_process(query), default_process(title)
    if name.startswith(plain):
        return 100.0 if name == plain else 97.0
    if f" {plain}" in f" {name}":
        return 94.0
    if plain in name:
        return 90.0
    words = f" {name} {default_process(more)}"
    if all(f" {word}" in words for word in plain.split()):
        return 86.0
    likeness = fuzz.token_set_ratio(plain, name) if len(plain) > 3 else 0.0
    likeness = max(likeness, *(fuzz.ratio(plain, word) for word in name.split()), 0.0) if len(plain) > 3 else 0.0
    return 0.8 * likeness if likeness >= LIKE else 0.0


def _fitting(hits: Iterable[tuple[Hit, str]], query: str) -> Iterator[Hit]:
    for hit, more in hits:
        fits = fit(query, hit.title, more)
        if fits:
            yield replace(hit, fit=fits)


def _by_letters(rows: Any, query: str, *fields: str) -> Any:
    """All rows where they are few, else those that hold the letters."""
    if rows.order_by()[: MOST_ROWS + 1].count() <= MOST_ROWS:
        return rows
    wanted = Q()
    for field in fields:
        wanted |= Q(**{f"{field}__icontains": query})
    return rows.filter(wanted)[:MOST_ROWS]


def _habitats(rooms: list[int], query: str) -> Iterator[Hit]:
    rows = _by_letters(Habitat.objects.filter(room__in=rooms).select_related("room"), query, "name")
    kind = _("habitat")
    for one in rows:
        hit = Hit(kind, one.name, one.room.name, reverse("keeping:now", args=[one.pk]))
        yield from _fitting([(hit, one.species.replace("-", " "))], query)


def _animals(rooms: list[int], query: str) -> Iterator[Hit]:
    rows = list(_by_letters(Animal.objects.filter(room__in=rooms), query, "name", "chip", "marks"))
    kinds, kind = kind_names(rows), _("animal")
    for one in rows:
        species = kinds[one.room_id, one.species]
        hit = Hit(kind, one.called, species, reverse("keeping:animal", args=[one.pk]))
        yield from _fitting([(hit, f"{species} {one.chip} {one.marks}")], query)


def _species(rooms: list[int], query: str) -> Iterator[Hit]:
    kind = _("species")
    for place, entry in enumerate(catalogue.search(catalogue.reachable(rooms), query).entries[:MOST_OF_A_KIND]):
        hit = Hit(kind, book(entry.common), entry.genus, reverse("book:sheet", args=[entry.species]))
        yield replace(hit, fit=max(fit(query, hit.title, hit.about), 80.0 - place))


def _notes(rooms: list[int], query: str) -> Iterator[Hit]:
    noted = Event.objects.filter(room__in=rooms, payload__note__icontains=query).select_related("habitat", "animal")
    for one in noted.order_by("-at", "-id")[:MOST_OF_A_KIND]:
        text, day = str(one.payload["note"]), dates.shown(day_of(one.at), "j M Y")
        place = max(0, text.casefold().find(query.casefold()) - 20)
        said = ("…" if place else "") + text[place : place + NOTE_LETTERS] + ("…" if len(text) > place + NOTE_LETTERS else "")
        about = one.animal.called if one.animal else one.habitat.name if one.habitat else ""
        where = (
            reverse("keeping:animal-daybook", args=[one.animal_id])
            if one.animal_id
            else reverse("keeping:habitat-daybook", args=[one.habitat_id])
            if one.habitat_id
            else reverse("keeping:room-daybook", args=[one.room_id])
        )
        yield Hit(_("daybook"), said, f"{about} {day}".strip(), where, 84.0)


def _food(rooms: list[int], query: str) -> Iterator[Hit]:
    kind = _("pantry")
    rows = Item.objects.filter(room__in=rooms)
    yield from _fitting(((Hit(kind, prey(one.food), "", reverse("pantry:shelf")), one.food) for one in rows), query)


def _instruments(rooms: list[int], query: str) -> Iterator[Hit]:
    rows, kind = Instrument.objects.filter(room__in=rooms), _("instrument")
    hits = ((Hit(kind, one.name, one.get_kind_display(), reverse("metering:check", args=[one.pk])), one.kind) for one in rows)
    yield from _fitting(hits, query)


def _pages(_rooms: list[int], query: str) -> Iterator[Hit]:
    kind = _("page")
    yield from _fitting(((Hit(kind, str(title), "", reverse(name)), str(more)) for name, title, more in PAGES), query)


def _handbook(_rooms: list[int], query: str) -> Iterator[Hit]:
    kind = _("handbook")
    for page in reading.pages(reading.language()):
        for part in page.sections:
            hit = Hit(kind, part.title, page.title, f"{reverse('handbook:page', args=[page.key])}#{part.ident}")
            yield from _fitting([(hit, f"{page.title} {part.text}")], query)


def _words(_rooms: list[int], query: str) -> Iterator[Hit]:
    kind = _("word")
    for word in WORDS:
        hit = Hit(kind, str(word.term), str(word.meaning), f"{reverse('handbook:words')}#{word.key}")
        yield from _fitting([(hit, str(word.forms).replace("|", " "))], query)


SOURCES: Final[tuple[Callable[[list[int], str], Iterator[Hit]], ...]] = (
    _habitats,
    _animals,
    _species,
    _pages,
    _food,
    _instruments,
    _words,
    _handbook,
    _notes,
)
