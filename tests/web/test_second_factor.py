"""The second factor, where a keeper is signed in, and what is told of an account."""

import re
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pytest
from axes.models import AccessAttempt
from django.contrib.sessions.models import Session
from django.core import mail
from django.db import ProgrammingError, transaction
from django.test import Client
from django.urls import reverse
from django_otp.oath import TOTP
from django_otp.plugins.otp_static.models import StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice
from procrastinate.contrib.django.models import ProcrastinateJob

from ridgeback import clock
from ridgeback.accounts import happened, sessions, tasks
from ridgeback.accounts.models import Happening, Keeper, SignedIn, Try

PASSWORD = "oyster-catcher-7"
FIREFOX = "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0"
PHONE = "Mozilla/5.0 (Linux; Android 15) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0 Mobile Safari/537.36"


def code(keeper: Keeper, ahead: int = 0) -> str:
    """What the phone shows, `ahead` steps of half a minute later."""
    device = TOTPDevice.objects.get(user=keeper)
    shown = TOTP(device.bin_key, drift=ahead)
    shown.time = clock.now().timestamp()
    return f"{shown.token():06d}"


def sign_in(password: str = PASSWORD, agent: str = FIREFOX, name: str = "tansy") -> tuple[Client, Any]:
    client = Client(headers={"User-Agent": agent})
    return client, client.post(reverse("accounts:sign-in"), {"username": name, "password": password, "next": "/round/"})


@pytest.fixture
def codes(owner: Keeper) -> list[str]:
    """The keeper has set a second factor up; the recovery codes."""
    client, _answer = sign_in()
    page = client.get(reverse("accounts:set-up-second")).content.decode()
    assert "<svg" in page
    assert client.post(reverse("accounts:set-up-second"), {"code": "000000"}).status_code == 422
    TOTPDevice.objects.update(throttling_failure_count=0, throttling_failure_timestamp=None)
    shown = client.post(reverse("accounts:set-up-second"), {"code": f" {code(owner)[:3]} {code(owner)[3:]}"}).content.decode()
    found = re.findall(r"<code>([a-z2-7]{4}-[a-z2-7]{4})</code>", shown)
    assert len(set(found)) == 10
    return found


def test_a_button_pressed_twice_shows_codes_that_are_good(owner: Keeper) -> None:
    """The browser shows the second answer alone; the same code a minute later, or another one, shows nothing any more."""
    client, _answer = sign_in()
    client.get(reverse("accounts:set-up-second"))
    typed = code(owner)
    client.post(reverse("accounts:set-up-second"), {"code": typed})
    shown = client.post(reverse("accounts:set-up-second"), {"code": typed}).content.decode()
    found = re.findall(r"<code>([a-z2-7]{4}-[a-z2-7]{4})</code>", shown)
    assert len(set(found)) == 10
    again, _answer = sign_in()
    assert again.post(reverse("accounts:second"), {"code": found[0]})["Location"] == "/round/"
    for late in ("000000", "", "seven", typed):
        if late == typed:
            TOTPDevice.objects.update(last_used_at=clock.now() - timedelta(minutes=1))
        answer = client.post(reverse("accounts:set-up-second"), {"code": late})
        assert answer.status_code == 302
    assert StaticToken.objects.count() == 9


def test_signing_in_asks_for_the_code_and_takes_each_once(owner: Keeper, codes: list[str]) -> None:
    client, answer = sign_in()
    assert answer["Location"] == reverse("accounts:second")
    assert client.get("/round/")["Location"].startswith(reverse("accounts:sign-in"))  # nobody is signed in yet
    assert client.get(reverse("accounts:second")).status_code == 200
    good = code(owner, 1)
    answer = client.post(reverse("accounts:second"), {"code": good})
    assert answer["Location"] == "/round/"
    assert client.get("/round/").status_code == 200
    again, _answer = sign_in()
    assert again.post(reverse("accounts:second"), {"code": good}).status_code == 422
    assert again.get("/round/").status_code == 302


def test_whoever_reads_the_database_has_no_recovery_code_and_a_new_key_leaves_them_good(
    owner: Keeper, codes: list[str], settings: Any
) -> None:
    plain = {code.replace("-", "") for code in codes}
    assert not plain & set(StaticToken.objects.values_list("token", flat=True))
    settings.SECRET_KEY_FALLBACKS, settings.SECRET_KEY = [settings.SECRET_KEY], "another-key-by-now"
    client, _answer = sign_in()
    assert client.post(reverse("accounts:second"), {"code": codes[0]}).status_code == 302


def test_a_recovery_code_signs_in_once(owner: Keeper, codes: list[str]) -> None:
    client, _answer = sign_in()
    assert client.post(reverse("accounts:second"), {"code": codes[0].upper()}).status_code == 302
    assert StaticToken.objects.count() == 9
    again, _answer = sign_in()
    assert again.post(reverse("accounts:second"), {"code": codes[0]}).status_code == 422
    assert "a recovery code was used" in client.get(reverse("accounts:account")).content.decode()


def test_who_guesses_waits_longer_each_time(owner: Keeper, codes: list[str]) -> None:
    client, _answer = sign_in()
    for wrong in ("123456", "123457"):
        assert client.post(reverse("accounts:second"), {"code": wrong}).status_code == 422
    answer = client.post(reverse("accounts:second"), {"code": code(owner, 1)})  # the right one, too soon after
    assert answer.status_code == 422
    assert "Wait a little" in answer.content.decode()
    assert Happening.objects.filter(keeper=owner, what="wrong-code").count() == 3


def test_the_wait_for_a_code_ends(owner: Keeper, codes: list[str], monkeypatch: pytest.MonkeyPatch) -> None:
    client, _answer = sign_in()
    late = clock.now() + timedelta(minutes=11)
    monkeypatch.setattr(clock, "now", lambda: late)
    assert client.post(reverse("accounts:second"), {"code": codes[0]})["Location"] == reverse("accounts:sign-in")
    assert client.get("/round/").status_code == 302
    other, _answer = sign_in()
    owner.set_password("another-password-9")
    owner.save()
    assert other.post(reverse("accounts:second"), {"code": codes[0]})["Location"] == reverse("accounts:sign-in")


def test_it_is_taken_off_by_the_password_alone(owner: Keeper, codes: list[str]) -> None:
    client, _answer = sign_in()
    client.post(reverse("accounts:second"), {"code": codes[1]})
    for url in ("accounts:second-off", "accounts:new-codes"):
        client.post(reverse(url), {"password": "wrong"})
    assert TOTPDevice.objects.filter(user=owner, confirmed=True).exists()
    assert StaticToken.objects.filter(device__user=owner).count() == 9
    fresh = client.post(reverse("accounts:new-codes"), {"password": PASSWORD}).content.decode()
    assert codes[2] not in fresh
    assert StaticToken.objects.filter(device__user=owner).count() == 10
    client.post(reverse("accounts:second-off"), {"password": PASSWORD})
    assert not TOTPDevice.objects.filter(user=owner).exists()
    assert sign_in()[1]["Location"] == "/round/"
    for _turn in range(5):
        client.post(reverse("accounts:second-off"), {"password": "wrong"})
    assert client.get("/round/").status_code == 302  # who guesses in somebody's session loses it


def test_an_administrator_takes_it_off_for_one_who_has_lost_the_phone(
    owner: Keeper, other: Keeper, codes: list[str], client_of: Callable[[Keeper], Client]
) -> None:
    url = reverse("accounts:second-off-for", args=[owner.pk])
    assert client_of(other).post(url).status_code == 403
    Keeper.objects.filter(pk=other.pk).update(is_staff=True)
    page = client_of(other).get(reverse("accounts:people")).content.decode()
    assert "tansy has lost the phone" in page
    client_of(other).post(url)
    assert not TOTPDevice.objects.filter(user=owner).exists()
    assert Happening.objects.filter(keeper=owner, what="second-off").count() == 1


def test_where_one_is_signed_in_is_listed_and_ended_from_elsewhere(owner: Keeper) -> None:
    desk, phone = sign_in()[0], sign_in(agent=PHONE)[0]
    page = desk.get(reverse("accounts:account")).content.decode()
    assert "Firefox, Linux" in page
    assert "Chrome, Android" in page
    other = SignedIn.objects.get(browser="Chrome, Android")
    desk.post(reverse("accounts:end-session"), {"which": str(other.pk)})
    assert phone.get("/round/").status_code == 302
    assert desk.get("/round/").status_code == 200
    third = sign_in(agent=PHONE)[0]
    desk.post(reverse("accounts:end-session"), {"do": "all"})
    assert third.get("/round/").status_code == 302
    assert SignedIn.objects.filter(keeper=owner).count() == 1
    desk.post(reverse("accounts:sign-out"))
    assert not SignedIn.objects.exists()


def test_nobody_ends_somebody_elses_session(owner: Keeper, other: Keeper, client_of: Callable[[Keeper], Client]) -> None:
    mine, theirs = client_of(owner), client_of(other)
    row = SignedIn.objects.get(keeper=owner)
    for told in ({"which": str(row.pk)}, {"do": "all"}, {"which": "x"}, {"which": "9" * 40}):
        assert theirs.post(reverse("accounts:end-session"), told).status_code == 302
    assert mine.get("/round/").status_code == 200


def test_a_browser_that_nobody_uses_is_signed_out(owner: Keeper, monkeypatch: pytest.MonkeyPatch, settings: Any) -> None:
    settings.IDLE_DAYS = 14
    client, _answer = sign_in()
    begun = clock.now()
    for day in (10, 20, 30):  # used now and then, it stays
        now = begun + timedelta(days=day)
        monkeypatch.setattr(clock, "now", lambda now=now: now)
        assert client.get("/round/").status_code == 200
    late = begun + timedelta(days=45)
    monkeypatch.setattr(clock, "now", lambda: late)
    answer = client.get("/round/")
    assert answer.status_code == 302
    assert answer["Location"].startswith(reverse("accounts:sign-in"))
    assert "Nobody used this browser" in client.get(answer["Location"]).content.decode()
    assert SignedIn.objects.count() == 0


@pytest.mark.parametrize(
    ("agent", "said"),
    [(FIREFOX, "Firefox, Linux"), (PHONE, "Chrome, Android"), ("", ""), ("curl/8", ""),
     ("Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605 Version/18.0 Mobile Safari/604", "Safari, iPhone"),
     ("Mozilla/5.0 (Windows NT 10.0) AppleWebKit/537 Chrome/140 Safari/537 Edg/140", "Edge, Windows")],
)  # fmt: skip
def test_of_a_browser_only_its_kind_is_kept(agent: str, said: str) -> None:
    assert sessions.named(agent) == said


def test_another_address_for_letters_needs_the_password_and_guessing_at_it_costs_the_session(owner: Keeper) -> None:
    client, _answer = sign_in()
    told = {"letters": "", "email": "elsewhere@example.org"}
    assert client.post(reverse("accounts:account"), told).status_code == 422
    answers = [client.post(reverse("accounts:account"), told | {"password": f"guess{n}"}).status_code for n in range(5)]
    assert answers == [422, 422, 422, 422, 302]
    assert client.get(reverse("accounts:account")).status_code == 302  # signed out
    assert Keeper.objects.get(pk=owner.pk).email == ""


def test_an_administrator_for_others_signs_in_with_a_second_factor(owner: Keeper, settings: Any) -> None:
    settings.ADMINISTRATORS_PROVE = True
    Keeper.objects.filter(pk=owner.pk).update(is_staff=True)
    client, _answer = sign_in()
    page = client.get(reverse("accounts:people"))
    assert page.status_code == 403
    assert reverse("accounts:set-up-second") in page.content.decode()
    assert client.post(reverse("accounts:people"), {"name": "Glasswort"}).status_code == 403
    TOTPDevice.objects.create(user=owner, name="phone", confirmed=True)
    assert client.get(reverse("accounts:people")).status_code == 200


def send_newest_letter() -> None:
    """What the worker does with the newest job that waits."""
    happened.letter(**ProcrastinateJob.objects.filter(task_name="accounts.letter").latest("id").args)


def test_letters_tell_of_changes_also_where_the_address_was(owner: Keeper, settings: Any) -> None:
    settings.MAIL_URL = "smtp://127.0.0.1:1"
    settings.EMAIL_BACKEND = "django.core.mail.backends.locmem.EmailBackend"
    Keeper.objects.filter(pk=owner.pk).update(email="tansy@example.org", language="de")
    client, _answer = sign_in()
    assert mail.outbox == []  # signing in is no change
    client.post(reverse("accounts:account"), {"letters": "", "email": "elsewhere@example.org", "password": PASSWORD})
    send_newest_letter()
    assert mail.outbox[0].to == ["tansy@example.org", "elsewhere@example.org"]
    assert "Adresse" in mail.outbox[0].body
    told = {"old_password": PASSWORD, "new_password1": "marsh-samphire-88", "new_password2": "marsh-samphire-88"}
    assert client.post(reverse("accounts:password"), told).status_code == 302
    send_newest_letter()
    assert "Passwort" in mail.outbox[1].body


@pytest.mark.parametrize("short", ["marsh-88", "elevenchars", "password1234"])
def test_a_password_is_long_and_not_a_common_one(owner: Keeper, short: str) -> None:
    client, _answer = sign_in()
    told = {"old_password": PASSWORD, "new_password1": short, "new_password2": short}
    assert client.post(reverse("accounts:password"), told).status_code == 200
    assert sign_in()[1].status_code == 302


def test_what_happened_is_changed_by_nobody_and_goes_with_its_account(owner: Keeper) -> None:
    sign_in()
    with pytest.raises(ProgrammingError, match="not changed"), transaction.atomic():
        Happening.objects.update(what="codes")
    owner.delete()
    assert not Happening.objects.exists()


def test_what_is_over_is_cleared_away_each_night(owner: Keeper, monkeypatch: pytest.MonkeyPatch) -> None:
    """Nothing of who came from where stays; who is signed in stays so."""
    wrong = sign_in("wrong")[0]
    assert AccessAttempt.objects.count() == 1
    old, _answer = sign_in()
    Session.objects.update(expire_date=clock.now() - timedelta(days=1))
    kept, _answer = sign_in(agent=PHONE)
    tasks.clear(0)
    assert SignedIn.objects.get().browser == "Chrome, Android"
    assert kept.get("/round/").status_code == 200
    assert old.get("/round/").status_code == wrong.get("/round/").status_code == 302
    assert Try.objects.count() == 3
    later = clock.now() + timedelta(days=101)
    monkeypatch.setattr(clock, "now", lambda: later)
    tasks.clear(0)
    assert not Session.objects.exists()
    assert not Try.objects.exists()
    assert not AccessAttempt.objects.exists()
    assert Happening.objects.filter(keeper=owner).count() == 2  # its keeper reads of it for two years
    much_later = clock.now() + timedelta(days=731)
    monkeypatch.setattr(clock, "now", lambda: much_later)
    tasks.clear(0)
    assert not Happening.objects.exists()


def test_who_is_signed_in_stays_so_under_a_new_key(owner: Keeper, settings: Any) -> None:
    client, _answer = sign_in()
    settings.SECRET_KEY_FALLBACKS, settings.SECRET_KEY = [settings.SECRET_KEY], "another key of fifty characters, made a moment ago"
    assert client.get("/round/").status_code == 200
    settings.SECRET_KEY_FALLBACKS = []
    assert client.get("/round/").status_code == 200  # its session was signed anew when it was used
