"""Where a keeper is signed in: each browser with when it was last seen, ended from any other, and by itself when nobody uses it."""

from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any, Final

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import logout
from django.contrib.auth.signals import user_logged_in, user_logged_out
from django.contrib.sessions.models import Session
from django.dispatch import receiver
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST

from ridgeback import clock
from ridgeback.accounts import happened
from ridgeback.accounts.models import Keeper, SignedIn
from ridgeback.web import typed

Respond = Callable[[HttpRequest], HttpResponse]
SEEN: Final = "seen"
LOOKED_AT_EVERY: Final = timedelta(minutes=5)
# What a browser says it is, in the order they are told apart: nearly all of them also say the later ones.
BROWSERS: Final = (("Firefox/", "Firefox"), ("Edg/", "Edge"), ("OPR/", "Opera"), ("Chrome/", "Chrome"), ("Safari/", "Safari"))
SYSTEMS: Final = (("Android", "Android"), ("iPhone", "iPhone"), ("iPad", "iPad"), ("Windows", "Windows"), ("Mac OS X", "Mac"),
                  ("Linux", "Linux"))  # fmt: skip


@receiver(user_logged_in)
def _begun(sender: Any, request: HttpRequest, user: Any, **_more: Any) -> None:
    if not isinstance(user, Keeper) or user.sits:
        return
    if not request.session.session_key:
        request.session.save()
    now = clock.now()
    request.session[SEEN] = now.isoformat()
    about = {"keeper": user, "browser": named(request.headers.get("User-Agent", "")), "since": now, "seen_at": now}
    SignedIn.objects.update_or_create(session=request.session.session_key, defaults=about)
    happened.note(user, "signed-in")


@receiver(user_logged_out)
def _ended(sender: Any, request: HttpRequest, user: Any, **_more: Any) -> None:
    if request.session.session_key:
        SignedIn.objects.filter(session=request.session.session_key).delete()


def named(agent: str) -> str:
    """Which browser on which system, as far as it says: "Firefox, Android"; nothing else of it is kept."""
    told = [next((name for sign, name in signs if sign in agent), "") for signs in (BROWSERS, SYSTEMS)]
    return ", ".join(part for part in told if part)


def in_use(respond: Respond) -> Respond:
    """Middleware: a browser that nobody has used for long is signed out; when each was last seen is kept to five minutes."""

    def answer(request: HttpRequest) -> HttpResponse:
        if request.user.is_authenticated and _idle(request):
            logout(request)
            messages.info(request, _("Nobody used this browser for long, so it was signed out. Sign in again."))
        return respond(request)

    return answer


def _idle(request: HttpRequest) -> bool:
    now, told = clock.now(), request.session.get(SEEN)
    seen = datetime.fromisoformat(told) if told else None
    if seen is not None and now - seen > timedelta(days=settings.IDLE_DAYS):
        return True
    if seen is None or now - seen >= LOOKED_AT_EVERY:
        request.session[SEEN] = now.isoformat()
        SignedIn.objects.filter(session=request.session.session_key).update(seen_at=now)
    return False


def of(keeper: Keeper, here: str | None) -> list[dict[str, Any]]:
    """The browsers a keeper is signed in with, this one first."""
    live = set(Session.objects.filter(expire_date__gt=clock.now()).values_list("session_key", flat=True)) if _any(keeper) else set()
    rows = [row for row in SignedIn.objects.filter(keeper=keeper).order_by("-seen_at") if row.session in live]
    rows.sort(key=lambda row: row.session != here)
    return [{"row": row, "here": row.session == here} for row in rows]


def _any(keeper: Keeper) -> bool:
    return SignedIn.objects.filter(keeper=keeper).exists()


@require_POST
def end(request: HttpRequest) -> HttpResponse:
    """Sign another browser out, or all others."""
    keeper = request.user
    if not isinstance(keeper, Keeper):
        raise Http404
    others = SignedIn.objects.filter(keeper=keeper).exclude(session=request.session.session_key or "")
    if request.POST.get("do") != "all":
        wanted = request.POST.get("which", "")
        others = others.filter(pk=typed.key(wanted))
    keys = list(others.values_list("session", flat=True))
    if not keys:
        messages.info(request, _("That one is signed out already."))
        return redirect("accounts:account")
    Session.objects.filter(session_key__in=keys).delete()
    others.delete()
    happened.note(keeper, "session-ended")
    messages.success(request, _("Signed out there."))
    return redirect("accounts:account")
