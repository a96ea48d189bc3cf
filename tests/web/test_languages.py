"""Languages: every text goes through gettext and is translated, none is fuzzy; numbers, days and drawings hold in each."""

import gettext as standard
import os
import re
import runpy
import shutil
import subprocess
import sys
from collections.abc import Callable
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from django.conf import settings as django_settings
from django.core import mail
from django.db import transaction
from django.test import Client
from django.urls import reverse
from django.utils.translation import override

from husbandry.assessment import Measure
from husbandry.species.book import find
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.book import catalogue
from ridgeback.daybook.models import Event, Instrument, Notice
from ridgeback.daybook.writing import Intent
from ridgeback.finding.search import search
from ridgeback.keeping import letters
from ridgeback.language import dates, entrywords, rotawords
from ridgeback.planner.models import PlanRevision
from ridgeback.rooms.models import Animal, Habitat, Room
from ridgeback.rota import appointments, sharing
from ridgeback.units import METRIC, US, KeeperUnits
from tests import pseudo
from tests.database import bring_demo
from tests.sample import in_turn
from tests.web.test_access import NAMES, POST_ONLY, address

ROOT = Path(__file__).resolve().parents[2]
TONGUES = [code for code, _name in django_settings.LANGUAGES if code != "en"]
STEPS = ("animal", "room", "enclosure", "ground", "furniture", "heat", "light", "moisture", "food")
# What is said alike in every language: formats, signs, names of programs, the names of the languages.
ALIKE = re.compile(r"\b(Ridgeback|JSON|CSV|TOML|PDF|ZIP|OpenAPI|MQTT|SED|UVI|kWh|English|Deutsch|Lux|cm|min)\b")


def extracted(folder: Path) -> str:
    """All texts there are, as xgettext finds them now in a copy of the tree."""
    shutil.copytree(ROOT / "ridgeback", folder / "ridgeback", ignore=shutil.ignore_patterns("vendor", "locale", "__pycache__"))
    shutil.copytree(ROOT / "husbandry", folder / "husbandry", ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(ROOT / "manage.py", folder)
    (folder / "ridgeback" / "locale").mkdir()
    command = [sys.executable, "-W", "ignore", "manage.py", "makemessages", "-l", "xx", "--no-wrap", "--no-location", "-v", "0"]
    here = os.environ | {"DATABASE_URL": "postgres://nobody@127.0.0.1:1/none"}
    done = subprocess.run(command, cwd=folder, env=here, capture_output=True, text=True, timeout=300)
    assert done.returncode == 0, done.stderr
    return (folder / "ridgeback" / "locale" / "xx" / "LC_MESSAGES" / "django.po").read_text(encoding="utf-8")


def ids(po: str) -> set[str]:
    """The texts of a catalogue, unquoted and with what stands over several lines in one."""
    found = re.findall(r'^msgid ((?:"(?:[^"\\]|\\.)*"\n)+)', po + "\n", re.MULTILINE)
    return {
        bytes("".join(re.findall(r'"(.*)"', one)), "utf-8").decode("unicode_escape").encode("latin-1").decode() for one in found
    } - {""}


def catalogue_of(tongue: str) -> standard.GNUTranslations:
    with (ROOT / "ridgeback" / "locale" / tongue / "LC_MESSAGES" / "django.mo").open("rb") as file:
        return standard.GNUTranslations(file)


@pytest.mark.sweep
@pytest.mark.parametrize("tongue", TONGUES)
def test_every_text_is_translated_and_none_is_fuzzy(tongue: str, tmp_path: Path) -> None:
    po = (ROOT / "ridgeback" / "locale" / tongue / "LC_MESSAGES" / "django.po").read_text(encoding="utf-8")
    assert not re.search(r"^#,.*fuzzy", po, re.MULTILINE)
    there = ids(extracted(tmp_path))
    assert len(there) > 6000
    assert sorted(there - ids(po)) == [], "run makemessages, translate, run compilemessages"
    known: dict[Any, str] = catalogue_of(tongue)._catalog  # type: ignore[attr-defined]
    said = {key if isinstance(key, str) else key[0]: text for key, text in known.items() if text}
    assert sorted(text for text in there if text not in said) == []


@pytest.mark.parametrize("tongue", TONGUES)
def test_what_is_put_into_a_text_stands_in_its_translation(tongue: str) -> None:
    holes = re.compile(r"%\(\w+\)[sd]|%%|\{\w*\}|<[^>]+>")
    for key, said in catalogue_of(tongue)._catalog.items():  # type: ignore[attr-defined]
        text = key if isinstance(key, str) else key[0]
        if text and isinstance(key, str):
            assert sorted(holes.findall(text)) == sorted(holes.findall(said)), text


def test_the_books_texts_are_those_that_there_are() -> None:
    book_texts = runpy.run_path(str(ROOT / "scripts" / "book_texts.py"))
    assert book_texts["TARGET"].read_text(encoding="utf-8") == book_texts["module"](), "run python scripts/book_texts.py"


@pytest.fixture
def demo_room(db: None) -> Room:
    bring_demo()
    return Room.objects.get()


def pages_of(habitat: Habitat) -> dict[str, str]:
    """Every page that is read, by its name."""
    found = {f"step-{step}": f"/habitats/{habitat.pk}/?step={step}" for step in STEPS}
    for parameter in NAMES:
        name, pattern = parameter.values
        if name in POST_ONLY or name.startswith(("api:", "handbook:")) or "calendar" in pattern:
            continue
        try:
            with transaction.atomic():
                found[str(name)] = address(str(name), str(pattern), habitat)
        except Exception:  # two addresses need a row of one name: one of them is enough
            continue
    return found


def own_words(room: Room) -> list[str]:
    """What a keeper wrote: names, and the notes of the demo's daybook."""
    names = [room.name, "keeper", "garter snake, Saltmarsh Lane", "garter snake", "log.csv", "warm", "Roach dry mix", "Cricket bin"]
    names += ["Window wall", "Door wall", "Shelf", "Hardware shop", "Reptile shop", "Window trays", "Flies, Monday cups"]
    names += ["Roaches under the bench"]
    names += [habitat.name for habitat in Habitat.objects.all()] + [one.called for one in Animal.objects.all()]
    names += [one.name for one in Instrument.objects.all()]
    return sorted((name for name in names if name), key=len, reverse=True)


@pytest.mark.sweep
def test_no_text_is_outside_gettext(demo_room: Room, client: Client, no_paper: None) -> None:
    """Each page in a pseudo-language: what stands in no brackets is a keeper's own, a sign, or was forgotten."""
    habitat = Habitat.objects.get(name="Driftwood long box")
    client.force_login(Keeper.objects.get(username="keeper"), backend="django.contrib.auth.backends.ModelBackend")
    pages, own = pages_of(habitat), own_words(demo_room)
    # A keeper's daybook, plans' documents and own profiles are their own words; scientific names and sources are in every language.
    left = {"keeping:habitat-daybook", "keeping:room-daybook", "keeping:animal-daybook", "book:mine", "book:edit", "book:sources"}
    forgotten: dict[str, str] = {}
    with pseudo.spoken():
        for name, url in in_turn(pages.items()):
            if name in left:
                continue
            answer = client.get(url)
            if answer.streaming or "html" not in answer.headers.get("Content-Type", ""):
                continue
            for text in pseudo.bare(answer.content.decode()):
                said = text.partition(": ")[2]
                for word in own:
                    said = said.replace(word, "")
                said = ALIKE.sub("", said)
                if re.search(r"[A-Za-z]{3}", said) and not text.startswith(("i: ", "em: ", "code: ", "kbd: ", "dt@")):
                    forgotten.setdefault(text, name)
    allowed = re.compile(r"recalled|et al\.|Almanac|NRC|Finke|USDA|snake-|corn-snake|[A-Z][a-z]+ [a-z]+us\b|Pantherophis|note$")
    assert {text: name for text, name in forgotten.items() if not allowed.search(text)} == {}


NUMBERS = {"x", "y", "x1", "x2", "y1", "y2", "cx", "cy", "r", "rx", "ry", "width", "height", "min", "max", "step"}


# A number with a point, which is no part of a date or a version.
POINTED = r"(?<![\d.,/v])\d+\.\d+(?![\d.]|,\d)"


@pytest.mark.sweep
@pytest.mark.parametrize(
    ("tongue", "decimal", "names"), [("de", "", ("Mudflat shelf", "Driftwood long box")), ("en", ",", ("Mudflat shelf",))]
)
def test_decimals_have_commas_in_texts_and_never_in_drawings(
    tongue: str, decimal: str, names: tuple[str, ...], demo_room: Room, client: Client, no_paper: None
) -> None:
    """Commas by language, or by the keeper's own choice in a language with points."""
    keeper = Keeper.objects.get(username="keeper")
    Keeper.objects.filter(pk=keeper.pk).update(decimal_mark=decimal, language=tongue)
    client.force_login(keeper, backend="django.contrib.auth.backends.ModelBackend")
    client.cookies["django_language"] = tongue
    drawn, pointed = {}, {}
    pages = {url: name for habitat in Habitat.objects.filter(name__in=names) for name, url in pages_of(habitat).items()}
    for url, name in in_turn(pages.items()):
        answer = client.get(url)
        assert answer.status_code < 500, name
        if answer.streaming or "html" not in answer.headers.get("Content-Type", ""):
            continue
        page = answer.content.decode()
        found = [f"{key}={value}" for key, value in re.findall(r'\s([a-z0-9]+)="([^"]*)"', page) if key in NUMBERS and "," in value]
        found += re.findall(r'(?:viewBox|transform|d)="[^"]*\d,\d+,\d[^"]*"', page)[:1] if name.startswith("handbook") else []
        if found:
            drawn[name] = found[:3]
        for text in pseudo.bare(page, POINTED):
            # A reason that an own profile or the book gives is its writer's own sentence, a file's numbers are the file's.
            own = name == "metering:file" or "Common practice, no source (" in text
            if not own and not text.startswith(("textarea: ", "code: ", "pre: ", "option: ")):
                pointed.setdefault(text, name)
    assert drawn == {}
    assert pointed == {}


def test_numbers_and_days_are_written_as_the_language_does() -> None:
    measure = Measure(30.5, "degC")
    with override("de"):
        assert METRIC.say(measure) == "30,5 °C"
        assert METRIC.between(0.65, 1.3, "kg") == "0,65–1,30 kg"
        assert METRIC.number(0.0, "d")[1] == "Tage"
        assert KeeperUnits(decimal=".").say(measure) == "30.5 °C"  # as its keeper writes numbers
        assert METRIC.number(32.5, "degC", typed=True)[0] == "32.5"  # what stands in a field is read again
        assert dates.shown(date(2026, 11, 30), "j F Y") == "30. November 2026"
        assert dates.shown(date(2026, 11, 30), "D j M") == "Mo 30. Nov"
    with override("en"):
        assert METRIC.say(measure) == "30.5 °C"
        assert US.say(measure) == "87 °F"
        assert dates.shown(date(2026, 11, 30), "j F Y") == "30 November 2026"


def test_a_typed_comma_is_read_in_either_language(owner: Keeper, habitat: Habitat, client_of: Callable[[Keeper], Client]) -> None:
    for tongue in ("en", *TONGUES):
        with override(tongue):
            assert METRIC.read("32,5", "degC") == pytest.approx(32.5)
            assert METRIC.read("32.5 °C", "degC") == pytest.approx(32.5)


def test_species_are_found_by_their_names_in_every_language(owner: Keeper) -> None:
    catalogue.enter_shipped()
    with override("de"):
        assert "Kornnatter" in [hit.title for hit in search(owner, "Kornnater")]
        assert find("corn-snake").common == "corn snake"  # the book itself has one language
    assert "corn snake" in [hit.title for hit in search(owner, "Kornnatter")]


def test_a_keeper_reads_and_is_written_to_in_their_language(
    owner: Keeper, habitat: Habitat, client_of: Callable[[Keeper], Client]
) -> None:
    client = client_of(owner)
    client.post(reverse("accounts:appearance"), {"tongue": "de", "back": "/habitats/"})
    page = client.get("/habitats/").content.decode()
    assert '<html lang="de"' in page
    assert "Neues Habitat" in page
    client.post(reverse("accounts:appearance"), {"tongue": "en", "back": "/habitats/"})
    assert "Neues Habitat" not in client.get("/habitats/").content.decode()  # nothing kept in the other language is shown
    owner.refresh_from_db()
    assert owner.language == "en"


def test_letters_and_calendars_speak_their_keepers_language(owner: Keeper, habitat: Habitat, settings: Any) -> None:
    settings.MAIL_URL = "smtp://127.0.0.1:1"
    settings.EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
    Keeper.objects.filter(pk=owner.pk).update(language="de", email="tansy@example.org", letters=Keeper.Letters.ALL)
    since = {"since": clock.now(), "looked_at": clock.now()}
    about = {"code": "reading.silent", "level": "look", "told": {"place": "warm-air", "every": "5 min"}}
    Notice.objects.create(room=habitat.room, habitat=habitat, **about, **since)
    assert letters.send(clock.now(), habitat.room_id, morning=True) == 1
    assert "Es ist nichts mehr zu hören" in mail.outbox[0].body
    keeper = Keeper.objects.get(pk=owner.pk)
    intent = Intent(keeper, clock.now())
    token = sharing.subscribe(habitat.room, keeper, "wall", intent, feeds_only=False, by_day=False)[1]
    calendar = Client().get(reverse("rota:subscribed", args=[token]), headers={"Accept-Language": "en"})
    assert "Frisches Wasser" in calendar.content.decode()


def test_what_was_done_is_told_in_its_readers_language(
    owner: Keeper, habitat: Habitat, client_of: Callable[[Keeper], Client]
) -> None:
    """A state of a plan and an entry are written in English and read in German."""
    client = client_of(owner)
    client.post(reverse("planner:part", args=[habitat.pk]), {"do": "thing", "thing": "branch", "version": habitat.version})
    revision = PlanRevision.objects.filter(habitat=habitat).first()
    entry = Event.objects.filter(habitat=habitat, kind=Event.Kind.PLANNED).get()
    assert revision is not None
    assert (revision.label, revision.said) == ("Branch added", "Branch added")
    with override("de"):
        assert revision.said == "Ast hinzugefügt"
        assert entrywords.said(entry.kind, entry.payload, METRIC) == "Ast hinzugefügt"
    client.post(reverse("planner:undo", args=[habitat.pk]), {"version": habitat.version + 1})
    undone = Event.objects.get(habitat=habitat, kind=Event.Kind.UNDONE)
    with override("de"):
        assert entrywords.said(undone.kind, undone.payload, METRIC) == "Ast hinzugefügt"
    # What was kept before words were kept in every language stays as it was written.
    assert entrywords.said(entry.kind, {"label": "a branch"}, METRIC) == "A branch"


@pytest.mark.sweep
def test_a_chore_is_the_same_one_in_every_language(demo_room: Room) -> None:
    """What was done is found by the chore's id: whoever reads in German does not do it again."""
    habitats = list(Habitat.objects.filter(room=demo_room))
    told = {}
    for tongue in ("en", *TONGUES):
        with override(tongue):
            found = [item for items in appointments.of_habitats(habitats, clock.today()).values() for item in items]
            told[tongue] = [(item.key, item.detail, item.first) for item in found]
    assert told["en"]
    assert all(one == told["en"] for one in told.values())
    with override("de"):
        assert str(rotawords.job("candle/Samphire, clutch of 12 Nov 2026 (1)").name).endswith(
            "Samphire, Gelege vom 12. Nov 2026 (1)"
        )
        assert str(rotawords.job("candle/Samphire, clutch of 12 Nov").name).endswith("Samphire, clutch of 12 Nov")  # cut off
