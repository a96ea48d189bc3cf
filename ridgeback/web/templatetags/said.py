"""What the book says, in a template: `{{ profile.common|said }}`; and days as the reader's language writes them."""

from typing import Any

from django import template
from django.template import defaultfilters

from ridgeback.language import dates
from ridgeback.language.booktext import book

register = template.Library()
register.filter("said", book)


@register.filter("date", expects_localtime=True, is_safe=False)
def date(value: Any, form: str | None = None) -> Any:
    """Django's own filter, with its format as the reader's language has it."""
    return defaultfilters.date(value, dates.pattern(form) if form else form)
