"""Days and moments as the reader's language writes them."""

import re
from datetime import date, datetime
from typing import Final

from django.utils import formats
from django.utils.translation import get_language

# Languages in which the number of a day is an ordinal with a point: "30. November".
POINTED: Final = frozenset({"de"})
_DAY: Final = re.compile(r"\bj(?= [MFN])|(?<=D )j$")


def pattern(form: str) -> str:
    """A format of Django's as the reader's language has it."""
    return _DAY.sub("j.", form) if (get_language() or "").partition("-")[0] in POINTED else form


def shown(value: date | datetime, form: str) -> str:
    """A day or a moment in a format of Django's, in the reader's language."""
    return str(formats.date_format(value, pattern(form)))
