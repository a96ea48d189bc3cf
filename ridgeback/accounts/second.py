"""The second factor: after the password a code of six digits that a program on the keeper's phone shows, or a recovery code."""

import hmac
import secrets
from base64 import b32encode
from datetime import datetime, timedelta
from typing import Any, Final

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import get_user_model, login
from django.contrib.auth.decorators import login_not_required
from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_http_methods, require_POST
from django_otp.oath import hotp
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice

from ridgeback import clock
from ridgeback.accounts import happened, tries
from ridgeback.accounts.models import Keeper
from ridgeback.web.qr import qr_svg

WAITING: Final = "second_factor"
WAITS: Final = timedelta(minutes=10)
CODES: Final = 10
DIGITS: Final = 6
PRESSED_TWICE: Final = timedelta(seconds=30)
BACKEND: Final = "django.contrib.auth.backends.ModelBackend"


def wanted_of(keeper: Keeper) -> bool:
    """Tell whether signing in asks for a second factor."""
    return bool(TOTPDevice.objects.filter(user=keeper, confirmed=True).exists())


def who_has_one() -> set[int]:
    """The keepers whom signing in asks for a second factor."""
    return set(TOTPDevice.objects.filter(confirmed=True).values_list("user_id", flat=True))


def codes_left(keeper: Keeper) -> int:
    """How many recovery codes were not used yet."""
    return int(StaticToken.objects.filter(device__user=keeper).count())


def ask(request: HttpRequest, keeper: Keeper, then: str) -> HttpResponse:
    """The password was right: keep who it is for a while, and ask for the code. Nobody is signed in yet."""
    told = {"pk": keeper.pk, "at": clock.now().isoformat(), "of": keeper.get_session_auth_hash(), "next": then}
    request.session.cycle_key()
    request.session[WAITING] = told
    return redirect("accounts:second")


def _waiting(request: HttpRequest) -> tuple[Keeper, str] | None:
    told = request.session.get(WAITING)
    if not told or clock.now() - datetime.fromisoformat(told["at"]) > WAITS:
        return None
    keeper = get_user_model().objects.filter(pk=told["pk"], is_active=True).first()
    if not isinstance(keeper, Keeper) or keeper.get_session_auth_hash() != told["of"]:
        return None  # the password was changed meanwhile
    return keeper, str(told["next"])


@login_not_required
@never_cache
@require_http_methods(["GET", "POST"])
@transaction.non_atomic_requests  # a wrong try is counted, whatever is answered
def second(request: HttpRequest) -> HttpResponse:
    """Ask for the code and sign in."""
    waiting = _waiting(request)
    if waiting is None:
        request.session.pop(WAITING, None)
        messages.info(request, _("That took too long. Sign in again."))
        return redirect("accounts:sign-in")
    keeper, then = waiting
    if request.method == "GET":
        return render(request, "accounts/second.html")
    code = "".join(request.POST.get("code", "")[:40].split()).replace("-", "").lower()
    if not tries.allowed(request, keeper.username):
        return render(request, "accounts/locked.html", status=429)
    with transaction.atomic():
        good, why = _checked(keeper, code)
        if not good:
            tries.note(request, keeper.username, good=False)
            happened.note(keeper, "wrong-code")
    if not good:
        return render(request, "accounts/second.html", {"why": why}, status=422)
    with transaction.atomic():
        request.session.pop(WAITING, None)
        login(request, keeper, backend=BACKEND)
    return redirect(then)


def _checked(keeper: Keeper, code: str) -> tuple[bool, str]:
    """Whether a code is good, and if not why; each is good once."""
    by_phone = code.isdecimal() and len(code) == DIGITS
    devices = TOTPDevice if by_phone else StaticDevice
    device = devices.objects.select_for_update().filter(user=keeper, confirmed=True).first()
    if device is None:
        return False, _("That is none of your codes.")
    allowed, _told = device.verify_is_allowed()
    if not allowed:
        return False, _("There were wrong codes just now. Wait a little, then try the next one.")
    if not device.verify_token(code if by_phone else _kept_form(keeper, code)):
        return False, _("That is none of your codes, or it was used already. A code from the phone is good for half a minute.")
    if not by_phone:
        happened.note(keeper, "recovery")
    return True, ""


@never_cache
@require_http_methods(["GET", "POST"])
def set_up(request: HttpRequest) -> HttpResponse:
    """Set the second factor up: scan, and type the first code."""
    keeper = _keeper(request)
    typed = "".join(request.POST.get("code", "")[:20].split())
    if request.method == "POST":
        Keeper.objects.select_for_update().get(pk=keeper.pk)  # pressed twice, the second waits for the first
    if wanted_of(keeper):
        if request.method == "POST" and _has_just_set_up(keeper, typed):
            return render(request, "accounts/codes.html", {"codes": _new_codes(keeper)})  # nobody saw the first ones
        return redirect("accounts:account")
    device = TOTPDevice.objects.filter(user=keeper, confirmed=False).first()
    if device is None:
        device = TOTPDevice.objects.create(user=keeper, name="phone", confirmed=False)
    why = ""
    if request.method == "POST":
        if device.verify_token(typed):
            device.confirmed = True
            device.save(update_fields=["confirmed"])
            happened.note(keeper, "second-on")
            return render(request, "accounts/codes.html", {"codes": _new_codes(keeper)})
        why = _("That is not the code. See that the phone’s clock is right, and type the one it shows now.")
    key = b32encode(device.bin_key).decode()
    context = {
        "why": why,
        "key": " ".join(key[place : place + 4] for place in range(0, len(key), 4)),
        "qr": qr_svg(device.config_url),
    }
    return render(request, "accounts/set_up_second.html", context, status=422 if why else 200)


def _has_just_set_up(keeper: Keeper, typed: str) -> bool:
    """Tell whether a code is the very one that set the second factor up a moment ago: the button was pressed twice."""
    device = TOTPDevice.objects.get(user=keeper, confirmed=True)
    if device.last_used_at is None or clock.now() - device.last_used_at > PRESSED_TWICE or not typed.isdecimal():
        return False
    return hmac.compare_digest(f"{hotp(device.bin_key, device.last_t, DIGITS):0{DIGITS}d}", typed)


@require_POST
def new_codes(request: HttpRequest) -> HttpResponse:
    """New recovery codes in place of the old ones, for whoever knows the password."""
    keeper = _keeper(request)
    if (refused := _wrong_password(request, keeper)) is not None:
        return refused
    if not wanted_of(keeper):
        return redirect("accounts:account")
    happened.note(keeper, "codes")
    return render(request, "accounts/codes.html", {"codes": _new_codes(keeper)})


@require_POST
def turn_off(request: HttpRequest) -> HttpResponse:
    """Ask for no second factor any more, for whoever knows the password."""
    keeper = _keeper(request)
    if (refused := _wrong_password(request, keeper)) is not None:
        return refused
    take_off(keeper)
    messages.success(request, _("Signing in asks for the password alone from now on."))
    return redirect("accounts:account")


def take_off(keeper: Keeper) -> None:
    """Take a keeper's second factor off, with its recovery codes; an administrator does it for one who has lost the phone."""
    gone = TOTPDevice.objects.filter(user=keeper).delete()[0]
    StaticDevice.objects.filter(user=keeper).delete()
    if gone:
        happened.note(keeper, "second-off")


def _new_codes(keeper: Keeper) -> list[str]:
    """Recovery codes, each good once; shown now and never again."""
    StaticDevice.objects.filter(user=keeper).delete()
    device = StaticDevice.objects.create(user=keeper, name="recovery codes")
    codes = [b32encode(secrets.token_bytes(5)).decode().lower() for _turn in range(CODES)]
    StaticToken.objects.bulk_create(StaticToken(device=device, token=_forms_of(keeper, code)[0]) for code in codes)
    return [f"{code[:4]}-{code[4:]}" for code in codes]


def _forms_of(keeper: Keeper, code: str) -> list[str]:
    """What may be kept of a recovery code: a digest by the secret key, or by one of before; who reads the database has no code."""
    told = f"recovery {keeper.pk} {code}".encode()
    keys = [settings.SECRET_KEY, *settings.SECRET_KEY_FALLBACKS]
    return [b32encode(hmac.digest(key.encode(), told, "sha256")).decode().lower()[:16] for key in keys]


def _kept_form(keeper: Keeper, code: str) -> str:
    forms = _forms_of(keeper, code)
    return StaticToken.objects.filter(device__user=keeper, token__in=forms).values_list("token", flat=True).first() or forms[0]


def _wrong_password(request: HttpRequest, keeper: Keeper) -> HttpResponse | None:
    """None for the right password; whoever guesses at it in somebody's session loses the session."""
    if keeper.check_password(request.POST.get("password", "")[:300]):
        return None
    if tries.lost_the_session(request):
        return redirect("accounts:sign-in")
    messages.error(request, _("That is not your password; nothing was changed."))
    return redirect("accounts:account")


def _keeper(request: HttpRequest) -> Keeper:
    if not isinstance(request.user, Keeper) or request.user.sits:
        raise PermissionDenied
    return request.user


def told(keeper: Keeper) -> dict[str, Any]:
    """For the account's page."""
    return {"second": wanted_of(keeper), "codes_left": codes_left(keeper)}
