"""What a page says, wherever its lines break."""

from django.http import HttpResponse


def page_text(answer: HttpResponse) -> str:
    """The page as a browser reads it: every run of white space is one space."""
    return " ".join(answer.content.decode().split())
