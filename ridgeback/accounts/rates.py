"""Who asks far more often than hands can press waits: by account, or by address for who has none.

Counted in the memory of each web process: it keeps one account from holding all of them, and costs no question to the database.
What guesses at passwords or works something out for a visitor is counted in the database, for all machines together.
"""

import math
import threading
from collections import OrderedDict
from collections.abc import Callable
from datetime import datetime
from http import HTTPStatus
from typing import Final

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.utils.translation import gettext as _

from ridgeback import clock
from ridgeback.accounts.tries import address_of
from ridgeback.web.bucket import Bucket

Respond = Callable[[HttpRequest], HttpResponse]
# A hand that drags asks ten times a second; a page fetches a dozen parts at once.
OF_ACCOUNT: Final = Bucket(burst=300.0, a_second=20.0)
# A school's forty tablets come from one address.
OF_ADDRESS: Final = Bucket(burst=400.0, a_second=30.0)
REMEMBERED: Final = 20_000
FREE: Final = frozenset({"/health", "/ready", "/metrics"})


class Counted:
    """What is left to each, the longest unseen forgotten."""

    def __init__(self) -> None:
        self.lock = threading.Lock()
        self.left: OrderedDict[str, tuple[float, datetime]] = OrderedDict()

    def wait_s(self, name: str, bucket: Bucket, now: datetime) -> float:
        """Count a request; return the seconds to wait, 0 for none."""
        with self.lock:
            left, at = self.left.pop(name, (bucket.burst, now))
            there, wait_s = bucket.take(left, at, now)
            self.left[name] = there, now
            while len(self.left) > REMEMBERED:
                self.left.popitem(last=False)
            return wait_s


def in_measure(respond: Respond) -> Respond:
    """Middleware: answer 429 to who asks far too often."""
    counted = Counted()

    def answer(request: HttpRequest) -> HttpResponse:
        if not settings.RATES or request.path in FREE:
            return respond(request)
        if request.user.is_authenticated:
            wait_s = counted.wait_s(f"account {request.user.pk}", OF_ACCOUNT, clock.now())
        else:
            wait_s = counted.wait_s(f"address {address_of(request)}", OF_ADDRESS, clock.now())
        return _wait(request, math.ceil(wait_s)) if wait_s else respond(request)

    return answer


def _wait(request: HttpRequest, seconds: int) -> HttpResponse:
    title = _("That was a little fast")
    if request.path.startswith("/api/"):
        response: HttpResponse = JsonResponse({"error": title, "problems": []}, status=HTTPStatus.TOO_MANY_REQUESTS)
    else:
        advice = _("Wait a moment and go on. Nothing was saved of this.")
        status = HTTPStatus.TOO_MANY_REQUESTS.value
        response = render(request, "error.html", {"title": title, "advice": advice, "status": status}, status=status)
    response["Retry-After"] = str(seconds)
    return response
