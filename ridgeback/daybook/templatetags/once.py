"""The hidden field by which a second press of a form is known."""

import secrets

from django import template
from django.utils.html import format_html
from django.utils.safestring import SafeString

register = template.Library()
TOKEN_BYTES = 9


@register.simple_tag
def once() -> SafeString:
    """A new token each time a form is shown; `ridgeback.daybook.writing` keys what is posted with it."""
    return format_html('<input type="hidden" name="once" value="{}">', secrets.token_urlsafe(TOKEN_BYTES))
