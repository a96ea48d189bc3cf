"""What the book and the food table say in words, in the reader's language; a keeper's own words stay as they are."""

from django.utils.translation import gettext


def book(text: object) -> str:
    """A text of the book (`book_texts.py` lists them all) in the reader's language; any other as it is."""
    return gettext(str(text)) if text else ""
