"""The look and the language that somebody chose: kept by a cookie, and nowhere else but for letters."""

from collections.abc import Callable

import pytest
from django.conf import LazySettings
from django.test import Client
from django.urls import reverse

from ridgeback.accounts.models import Keeper

APPEARANCE = "accounts:appearance"


def test_the_night_look_is_kept_for_whoever_chose_it(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    assert 'data-look="day"' in client.get("/habitats/").content.decode()
    answer = client.post(reverse(APPEARANCE), {"look": "night", "back": "/pantry/"})
    assert answer["Location"] == "/pantry/"
    page = client.get("/habitats/").content.decode()
    assert 'data-look="night"' in page
    assert "night.css" in page
    assert 'data-look="day"' in client_of(owner).get("/habitats/").content.decode()  # another device


@pytest.mark.parametrize("back", ["https://elsewhere.example/", "//elsewhere.example/", "javascript:alert(1)", ""])
def test_it_leads_to_no_other_site(back: str, db: None) -> None:
    assert Client().post(reverse(APPEARANCE), {"look": "night", "back": back})["Location"] == "/"


def test_what_is_not_offered_is_not_taken(owner: Keeper, client_of: Callable[[Keeper], Client], settings: LazySettings) -> None:
    client = client_of(owner)
    answer = client.post(reverse(APPEARANCE), {"look": "<b>", "tongue": "tlh"})
    assert not answer.cookies
    owner.refresh_from_db()
    assert owner.language == ""
