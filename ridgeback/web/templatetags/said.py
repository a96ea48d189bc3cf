"""What the book says, in a template: `{{ profile.common|said }}`; and days and numbers as their reader writes them."""

from typing import Any

from django import template
from django.template import defaultfilters
from django.utils import formats

from ridgeback.language import dates
from ridgeback.language.booktext import book
from ridgeback.units import mark, written

register = template.Library()
register.filter("said", book)
register.filter("written", written)


@register.filter("date", expects_localtime=True, is_safe=False)
def date(value: Any, form: str | None = None) -> Any:
    """Django's own filter, with its format as the reader's language has it."""
    return defaultfilters.date(value, dates.pattern(form) if form else form)


@register.filter("floatformat", is_safe=True)
def floatformat(value: Any, form: int | str = -1) -> str:
    """Django's own filter, with the decimal mark of whoever reads it; "u" at the end of the form keeps the point, as there."""
    text = defaultfilters.floatformat(value, form)
    if str(form).endswith("u"):
        return str(text)
    return str(text).replace(str(formats.get_format("DECIMAL_SEPARATOR")), mark())
