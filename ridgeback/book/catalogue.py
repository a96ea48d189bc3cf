"""Finding profiles among thousands: names by PostgreSQL's trigrams and by letters, everything else by the entry's columns."""

import hashlib
from dataclasses import asdict, dataclass
from functools import cache
from typing import Final

from django.conf import settings
from django.contrib.postgres.search import TrigramWordSimilarity
from django.db import connection, transaction
from django.db.models import Q, QuerySet
from django.utils.translation import override

from husbandry.space.sizing import holds, needs_of_grown, sides_for
from husbandry.species.book import shipped
from husbandry.species.leaves import choose
from husbandry.species.lookup import Relatives, genus, names, plain_words, relatives, similarity
from husbandry.species.profile import Profile
from ridgeback.book.models import Entry, Name, OwnProfile
from ridgeback.book.profiles import shipped_digest
from ridgeback.language.booktext import book

LOOKED_AT: Final = 0.2  # word similarity of trigrams from which a name is looked at more closely
ALIKE_TRIGRAMS: Final = 0.4  # word similarity of trigrams from which a misspelt name is taken to be meant
ALIKE_LETTERS: Final = 0.7  # the same, letter by letter: one wrong of four, two of seven
ROOM_C: Final = 24.0  # a warm end that begins here is a lived-in room's (estimate)
OF_BEST: Final = 0.85  # what is less like than this share of the likeliest is left out


@dataclass(frozen=True)
class Hits:
    """Entries, the likeliest first, and what must be said about them."""

    entries: list[Entry]
    relatives: Relatives | None = None


def warmth(profile: Profile) -> str:
    """Return how it is kept warm when grown: "heated" with a hot spot, "warm" air, or at "room" temperature."""
    heat = profile.stages[-1].heat
    if heat.basking_surface_c is not None:
        return "heated"
    return "room" if (choose(heat.warm_air_c, {}).low or 0.0) <= ROOM_C else "warm"


def total_cm(profile: Profile) -> float:
    """The length of a large grown animal from nose to tail tip, whatever the species is measured by."""
    adult = profile.body.adult_length_cm
    return adult.most / profile.body.total_to_measure.value


def of_size(entries: QuerySet[Entry], more_than_cm: float, at_most_cm: float) -> QuerySet[Entry]:
    """Those whose large grown animal is so long in all."""
    return entries.filter(total_cm__gt=more_than_cm, total_cm__lte=at_most_cm)


@dataclass(frozen=True)
class Brief:
    """What a row of the shelf says of a species: lengths in cm by the species' measure, years, sides in m."""

    species: str
    common: str
    scientific: str
    group: str
    habit: str
    diet: str
    zone: str
    warmth: str
    measure: str
    length_cm: tuple[float, float]
    years: tuple[float, float]
    sides_m: tuple[float, float, float]


def brief(profile: Profile) -> Brief:
    """Return a profile's row."""
    adult, years = profile.body.adult_length_cm, profile.body.lifespan_years
    return Brief(
        profile.id,
        profile.common,
        profile.scientific,
        profile.group,
        profile.habit,
        profile.diet,
        profile.uv_zone.value,
        warmth(profile),
        profile.body.length_measure,
        (adult.least, adult.most),
        (years.least, years.most),
        sides_for(needs_of_grown(profile)),
    )


def _columns(profile: Profile, sha256: str) -> dict[str, object]:
    wanted = needs_of_grown(profile)
    length_m, width_m, height_m = sides_for(wanted)
    return {
        "common": profile.common,
        "genus": genus(profile),
        "group": profile.group,
        "habit": profile.habit,
        "zone": profile.uv_zone.value,
        "warmth": warmth(profile),
        "total_cm": total_cm(profile),
        "length_m": length_m,
        "width_m": width_m,
        "height_m": height_m,
        "water_m3": wanted["water_volume"].size if "water_volume" in wanted else 0.0,
        "brief": asdict(brief(profile)),
        "sha256": sha256,
    }


@transaction.atomic
def enter(profile: Profile, sha256: str, own: OwnProfile | None = None) -> Entry:
    """Write a profile's entry and names anew."""
    entry, _made = Entry.objects.update_or_create(species=profile.id, own=own, defaults=_columns(profile, sha256))
    entry.names.all().delete()
    Name.objects.bulk_create(_names(entry, profile))
    return entry


def _names(entry: Entry, profile: Profile) -> list[Name]:
    called = dict.fromkeys([*names(profile), *_in_every_language(profile.common)])
    return [Name(entry=entry, text=text[:120], plain=plain_words(text)[:120]) for text in called]


def _in_every_language(text: str) -> list[str]:
    """A text of the book in all languages of the program: a species is found by its name in any of them."""
    found = []
    for tongue, _name in settings.LANGUAGES:
        with override(tongue):
            found.append(book(text))
    return found


@cache
def _entered(species: str) -> str:
    """What tells whether an entry is up to date: its profile, and what it is called in all languages."""
    said = [shipped_digest(species), *_in_every_language(shipped()[species].common)]
    return hashlib.sha256("\n".join(said).encode()).hexdigest()


def _out_of_date() -> set[str]:
    """The species whose entries are missing, of before, or of none any more."""
    there = dict(Entry.objects.filter(own__isnull=True).values_list("species", "sha256"))
    wanted = {species: _entered(species) for species in shipped()}
    return {species for species in {*wanted, *there} if wanted.get(species) != there.get(species)}


@transaction.atomic
def enter_shipped() -> None:
    """Bring the shipped book's entries up to date; nothing is written when they are."""
    if not _out_of_date():
        return
    with connection.cursor() as cursor:  # two who find it out of date at once do not both write it
        cursor.execute("select pg_advisory_xact_lock(hashtext('the shipped book'))")
    ours, out_of_date = shipped(), _out_of_date()
    Entry.objects.filter(own__isnull=True, species__in=out_of_date).delete()
    made = Entry.objects.bulk_create(
        Entry(species=each, **_columns(ours[each], _entered(each))) for each in ours if each in out_of_date
    )
    Name.objects.bulk_create([name for entry in made for name in _names(entry, ours[entry.species])])


def reachable(room_ids: list[int]) -> QuerySet[Entry]:
    """The shipped entries and those of these rooms."""
    return Entry.objects.filter(Q(own__isnull=True) | Q(own__room_id__in=room_ids))


def fitting(entries: QuerySet[Entry], sides_m: tuple[float, float, float]) -> QuerySet[Entry]:
    """Those whose grown animal finds room; by the core's own rule, over what each entry needs."""
    asked = entries.values_list("pk", "length_m", "width_m", "height_m", "water_m3", "habit")
    fits = [pk for pk, length, width, height, water, habit in asked if holds(sides_m, (length, width, height), water, habit)]
    return entries.filter(pk__in=fits)


def search(entries: QuerySet[Entry], query: str) -> Hits:
    """Return the entries a name means: those that hold its letters, else those a little misspelt.

    A genus without a species the book has is answered with its relatives, and that is said.
    """
    plain = plain_words(query)[:60]
    if not plain:
        return Hits(list(entries))
    holding = list(entries.filter(pk__in=Name.objects.filter(plain__contains=plain).values("entry_id")))
    kin = _relatives(plain) if not holding or " " not in plain else None
    if kin is not None and (holding or kin.asked):
        return Hits(list(entries.filter(genus=kin.genus)), kin)
    if holding:
        return Hits(sorted(holding, key=lambda entry: not entry.common.casefold().startswith(plain)))
    weighed = _alike(plain)
    best = max(weighed.values(), default=0.0)
    meant = [name for name, likeness in weighed.items() if likeness >= OF_BEST * best]
    likeliest: dict[int, tuple[float, Entry]] = {}
    for name in Name.objects.filter(plain__in=meant, entry__in=entries).select_related("entry"):
        so_far = likeliest.get(name.entry_id, (0.0, name.entry))[0]
        likeliest[name.entry_id] = max(so_far, weighed[name.plain]), name.entry
    ranked = sorted(likeliest.values(), key=lambda pair: (-pair[0], pair[1].common.casefold()))
    return Hits([entry for _likeness, entry in ranked])


def _alike(plain: str) -> dict[str, float]:
    """Every name that is like these words, with its likeness; copies share their names, so each spelling is weighed once.

    Two letters exchanged over a third spoil most trigrams of a short word, and letters say little of words that begin alike:
    the better of the two counts. The planner takes comparing trigrams for cheap and reads the whole table, four times as long
    as by the index.
    """
    settings = {"pg_trgm.word_similarity_threshold": str(LOOKED_AT), "enable_seqscan": "off"}
    with connection.cursor() as cursor:
        for name, value in settings.items():
            cursor.execute("SELECT set_config(%s, %s, true)", [name, value])
        found = Name.objects.filter(plain__trigram_word_similar=plain).values_list("plain").distinct()
        trigrams = dict(found.annotate(likeness=TrigramWordSimilarity(plain, "plain")).values_list("plain", "likeness"))
        cursor.execute("SELECT set_config('enable_seqscan', 'on', true)")
    letters = {name: similarity(plain, name) for name in trigrams}
    weighed = {name: max(_from(ALIKE_TRIGRAMS, trigrams[name]), _from(ALIKE_LETTERS, letters[name])) for name in trigrams}
    return {name: weight for name, weight in weighed.items() if weight}


def _from(least: float, value: float) -> float:
    return value if value >= least else 0.0


def _relatives(plain: str) -> Relatives | None:
    scientific = [plain_words(profile.scientific).split() for profile in shipped().values()]
    epithets = {word for words in scientific for word in words[1:] if words[0] == plain.split()[0]}
    return relatives(plain, {words[0] for words in scientific}, epithets)
