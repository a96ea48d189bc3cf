"""Who tries it without an account may ask a few things at once, and all of them together no more than leaves keepers served."""

import hashlib
import math
from collections.abc import Callable
from datetime import timedelta
from functools import wraps
from http import HTTPStatus
from typing import Final

from django.conf import settings
from django.contrib.auth.decorators import login_not_required
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.translation import gettext as _

from ridgeback import clock
from ridgeback.accounts.tries import address_of
from ridgeback.reviewing.models import Visitor
from ridgeback.web.bucket import Bucket

ONE: Final = Bucket(burst=40.0, a_second=0.25)
ALL: Final = Bucket(burst=120.0, a_second=1.0)
EVERYBODY: Final = "everybody"
KEPT: Final = timedelta(days=1)
Page = Callable[..., HttpResponse]


def for_visitors(cost: float, *, always: bool = False) -> Callable[[Page], Page]:
    """Open a page to who has no account; each time it works something out for a visitor it takes `cost` from their bucket.

    It does where something is posted or asked in the address; `always` says that it does in any case.
    """

    def decorated(page: Page) -> Page:
        @login_not_required
        @wraps(page)
        def answer(request: HttpRequest, *args: object, **more: object) -> HttpResponse:
            works = always or request.method == "POST" or bool(request.GET)
            if request.user.is_authenticated or not works:
                return page(request, *args, **more)
            wait_s = asked(request, cost)
            return page(request, *args, **more) if wait_s == 0.0 else _wait(request, wait_s)

        return answer

    return decorated


def asked(request: HttpRequest, cost: float) -> float:
    """Count what a visitor asks; return the seconds to wait, 0 for none."""
    now = clock.now()
    waits = 0.0
    with transaction.atomic():
        Visitor.objects.filter(counted_at__lt=now - KEPT).delete()
        names = ((_digest(address_of(request)), ONE), (_digest(EVERYBODY), ALL))
        for digest, bucket in names:
            Visitor.objects.get_or_create(digest=digest, defaults={"left": bucket.burst, "counted_at": now})
            row = Visitor.objects.select_for_update().get(digest=digest)
            row.left, wait_s = bucket.take(row.left, row.counted_at, now, cost)
            row.counted_at = now
            row.save(update_fields=["left", "counted_at"])
            waits = max(waits, wait_s)
            if waits:
                break  # who waits takes nothing from the others
    return waits


def _digest(address: str) -> str:
    return hashlib.sha256(f"{settings.SECRET_KEY}{address}".encode()).hexdigest()


def _wait(request: HttpRequest, wait_s: float) -> HttpResponse:
    seconds = math.ceil(wait_s)
    part = "HX-Request" in request.headers
    if part and request.method == "GET":
        page, context = "reviewing/_wait.html", {"seconds": seconds, "again": request.get_full_path()}
    else:
        advice = _("Without an account only a few things can be asked in a minute. Try again in %(n)s seconds, or sign in.")
        told = {"advice": advice % {"n": seconds}, "status": HTTPStatus.TOO_MANY_REQUESTS.value}
        page, context = "error.html", {"title": _("That was a little fast")} | told
    answer = render(request, page, context, status=HTTPStatus.TOO_MANY_REQUESTS)
    answer["Retry-After"] = str(seconds)
    if part and request.method != "GET":
        answer["HX-Reswap"] = "none"  # what is drawn stays, and the next press draws the rest
    return answer
