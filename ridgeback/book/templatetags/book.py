"""Small things the book's templates need."""

from typing import Any

from django import template

from ridgeback.units import SYMBOLS

register = template.Library()
ROW, AXIS = 20, 13


@register.filter
def bars_height(bars: list[Any]) -> int:
    """The height in pixels of so many bars and their axis."""
    return ROW * len(bars) + AXIS


@register.filter
def degrees(unit: str) -> str:
    """The sign of a temperature's unit."""
    return SYMBOLS[unit]
