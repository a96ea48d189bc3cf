"""What is kept in words: said once in each language, so that its reader need not read its writer's."""

from collections.abc import Callable, Mapping
from typing import Any, Final

from django.conf import settings
from django.utils import translation
from django.utils.functional import Promise, lazy

KEPT: Final = "told"  # the key of an entry's payload under which its words stand by language


def later(say: Callable[[], str]) -> str:
    """Words that are said anew in the language of whoever asks: for what is kept, hand this over and not the words themselves."""
    said: str = lazy(lambda: str(say()), str)()
    return said


def in_each_language(said: object, longest: int | None = None) -> dict[str, str]:
    """Words by the codes of all languages, cut at so many characters; the same in each where they are not said `later`."""
    told = {}
    for code, _name in settings.LANGUAGES:
        with translation.override(code):
            told[code] = str(said)[:longest]
    return told


def in_readers(told: Mapping[str, str] | None, otherwise: str) -> str:
    """The words in the language that is read now, or as they were written where they are not kept in it."""
    return (told or {}).get(translation.get_language() or "", otherwise)


def kept(payload: Mapping[str, Any]) -> dict[str, Any]:
    """An entry's payload as it is kept: what is said `later` in its writer's language, and in all of them beside it."""
    said = {key: value for key, value in payload.items() if isinstance(value, Promise)}
    plain = {key: str(value) if key in said else value for key, value in payload.items()}
    return plain | ({KEPT: in_each_language(next(iter(said.values())))} if said else {})
