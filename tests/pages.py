"""What a page says, wherever its lines break."""

from typing import Any


def page_text(answer: Any) -> str:
    """The page as a browser reads it: every run of white space is one space."""
    return " ".join(answer.content.decode().split())
