"""A keeper's own account, and the people an administrator looks after."""

import re
from collections.abc import Callable

import pytest
from django.test import Client
from django.urls import reverse

from ridgeback.accounts.models import Keeper
from ridgeback.rooms.access import rooms_of

pytestmark = pytest.mark.django_db
NEW = {"new_password1": "samphire-and-thrift", "new_password2": "samphire-and-thrift"}


def sign_in(name: str, password: str) -> int:
    return Client().post(reverse("accounts:sign-in"), {"username": name, "password": password}).status_code


@pytest.fixture
def administrator(owner: Keeper, client_of: Callable[[Keeper], Client]) -> Client:
    owner.is_staff = True
    owner.save()
    return client_of(owner)


def test_a_keeper_changes_the_password_and_stays_signed_in(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    answer = client.post(reverse("accounts:password"), {"old_password": "oyster-catcher-7", **NEW})
    assert answer.status_code == 302
    assert client.get(reverse("accounts:account")).status_code == 200
    assert sign_in("tansy", "samphire-and-thrift") == 302
    assert sign_in("tansy", "oyster-catcher-7") == 200


@pytest.mark.parametrize(
    ("password", "words"), [("short", "too short"), ("password123", "too common"), ("tansy123", "too similar")]
)
def test_a_weak_password_is_refused_with_its_reason(
    owner: Keeper, client_of: Callable[[Keeper], Client], password: str, words: str
) -> None:
    data = {"old_password": "oyster-catcher-7", "new_password1": password, "new_password2": password}
    page = client_of(owner).post(reverse("accounts:password"), data).content.decode()
    assert words in page
    assert sign_in("tansy", "oyster-catcher-7") == 302


def test_changing_a_password_needs_the_old_one(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client_of(owner).post(reverse("accounts:password"), {"old_password": "guess", **NEW})
    assert sign_in("tansy", "oyster-catcher-7") == 302


def test_a_reset_link_ends_with_its_use(administrator: Client, other: Keeper) -> None:
    link = administrator.post(reverse("accounts:reset-link", args=[other.pk])).context["link"]
    assert re.match(r"http://testserver/account/reset/", link)
    visitor = Client()
    form = visitor.get(link, follow=True).redirect_chain[-1][0]
    assert visitor.post(form, NEW).status_code == 302
    assert sign_in("sedge", "samphire-and-thrift") == 302
    assert "no longer works" in Client().get(link, follow=True).content.decode()


def test_a_link_made_before_a_sign_in_with_the_old_password_is_void(administrator: Client, other: Keeper) -> None:
    """Django's token holds the last sign-in: whoever still knows the password needs no link."""
    link = administrator.post(reverse("accounts:reset-link", args=[other.pk])).context["link"]
    assert sign_in("sedge", "oyster-catcher-8") == 302
    assert "no longer works" in Client().get(link, follow=True).content.decode()


def test_people_are_the_administrators_alone(owner: Keeper, other: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    assert client.get(reverse("accounts:people")).status_code == 403
    assert client.post(reverse("accounts:reset-link", args=[other.pk])).status_code == 403


def test_an_administrator_adds_people_but_does_not_see_their_rooms(administrator: Client, owner: Keeper) -> None:
    page = administrator.post(reverse("accounts:people"), {"username": "glasswort"})
    assert "/account/reset/" in page.content.decode()
    newcomer = Keeper.objects.get(username="glasswort")
    room = rooms_of(newcomer).get()
    assert room not in rooms_of(owner)
    again = administrator.post(reverse("accounts:people"), {"username": "glasswort"})
    assert "already exists" in again.content.decode()


def test_who_is_switched_off_cannot_sign_in_nor_be_given_a_link(administrator: Client, other: Keeper) -> None:
    Keeper.objects.filter(pk=other.pk).update(is_active=False)
    assert sign_in("sedge", "oyster-catcher-8") == 200
    assert administrator.post(reverse("accounts:reset-link", args=[other.pk])).status_code == 404


def test_signing_out_is_a_post_and_ends_the_session(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    client = client_of(owner)
    assert client.get(reverse("accounts:sign-out")).status_code == 405
    client.post(reverse("accounts:sign-out"))
    assert client.get(reverse("rooms:habitats")).status_code == 302


def test_after_signing_in_one_comes_where_one_wanted_but_never_elsewhere(owner: Keeper) -> None:
    url, data = reverse("accounts:sign-in"), {"username": "tansy", "password": "oyster-catcher-7"}
    assert Client().post(f"{url}?next=/habitats/new/", data | {"next": "/habitats/new/"})["Location"] == "/habitats/new/"
    assert Client().post(url, data | {"next": "https://elsewhere.example/"})["Location"] == "/habitats/"


def test_unknown_units_are_refused(owner: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    data = {"temperature_unit": "rankine", "length_unit": "cm", "mass_unit": "g", "volume_unit": "L"}
    assert client_of(owner).post(reverse("accounts:account"), data).status_code == 200
    owner.refresh_from_db()
    assert owner.temperature_unit == "degC"
