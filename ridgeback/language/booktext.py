"""What the book and the food table say in words, in the reader's language; a keeper's own words stay as they are."""

from django.utils.translation import gettext


def book(text: object) -> str:
    """A text of the book (`book_texts.py` lists them all) in the reader's language; any other as it is."""
    said = "" if text is None else str(text)
    return gettext(said) if said else ""  # gettext's answer to nothing is the head of its file
