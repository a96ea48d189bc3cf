"""Who a request of another program speaks for: its token, what that may do, how often, and what was answered before."""

import hashlib
import json
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any, Final

from django.http import HttpRequest
from django.utils.translation import gettext_lazy as _
from ninja.errors import HttpError
from ninja.security import HttpBearer

from husbandry.errors import HusbandryError
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.api.models import Answered, Token
from ridgeback.rooms.access import memberships
from ridgeback.rooms.models import Membership, Room
from ridgeback.web.bucket import Bucket
from ridgeback.web.tokens import digest_of, new_token

SCOPES: Final = {
    "read": _("read: habitats, plans, animals, what is due, what was written down"),
    "write": _("write: what was done, fed, weighed, noted"),
    "plan": _("plan: change the plans of habitats"),
}
REQUESTS: Final = Bucket(burst=60.0, a_second=2.0)
KEPT: Final = timedelta(days=7)
TOKEN_BYTES: Final = 32
MOST_KEY: Final = 80
WRITERS: Final = (Membership.Role.OWNER, Membership.Role.KEEPER)


class TooOftenError(HusbandryError):
    """A program asks more often than it may; `wait_s` until the next time."""

    def __init__(self, wait_s: float) -> None:
        super().__init__(f"wait {wait_s:.0f} s")
        self.wait_s = wait_s


class Bearer(HttpBearer):
    """`Authorization: Bearer <token>`, of a keeper who is a member of the token's room today."""

    def authenticate(self, request: HttpRequest, token: str) -> Token | None:
        """The token that is good now, counted; None for any other. Raises TooOftenError."""
        found = Token.objects.select_for_update().filter(sha256=digest_of(token), ended_at__isnull=True).first()
        if found is None or not found.made_by.is_active or _role(found) is None:
            return None
        now = clock.now()
        found.allowance, wait_s = REQUESTS.take(found.allowance, found.counted_at, now)
        found.counted_at = found.used_at = now
        found.save(update_fields=["allowance", "counted_at", "used_at"])
        if wait_s:
            raise TooOftenError(wait_s)
        return found


def _role(token: Token) -> str | None:
    return memberships(token.made_by).filter(room=token.room_id).values_list("role", flat=True).first()


def make(room: Room, keeper: Keeper, name: str, scopes: list[str], now: datetime) -> tuple[Token, str]:
    """Make a token; it is told once."""
    token = new_token(TOKEN_BYTES)
    said = {"name": name, "scopes": scopes, "made_by": keeper, "made_at": now, "allowance": REQUESTS.burst, "counted_at": now}
    return Token.objects.create(room=room, sha256=digest_of(token), **said), token


def may(request: HttpRequest, scope: str) -> Token:
    """The token of a request, where it may do that. Raises HttpError 403."""
    token: Token = request.auth  # type: ignore[attr-defined]
    if scope not in token.scopes:
        raise HttpError(403, f"This token may not {scope}.")
    if scope != "read" and _role(token) not in WRITERS:
        raise HttpError(403, "The keeper who made this token only looks on in this room.")
    return token


def once(request: HttpRequest, token: Token, work: Callable[[], tuple[int, Any]]) -> tuple[int, Any]:
    """Do something once for each idempotency key of a token; the same request again is told what the first was told.

    Raises HttpError 422 where another request had that key.
    """
    key = request.headers.get("Idempotency-Key", "")
    if not key:
        return work()
    if len(key) > MOST_KEY:
        raise HttpError(422, f"An idempotency key has {MOST_KEY} characters at most.")
    asked = hashlib.sha256(f"{request.method} {request.path}\n".encode() + request.body).hexdigest()
    now = clock.now()
    Answered.objects.filter(at__lt=now - KEPT).delete()
    before = Answered.objects.filter(token=token, key=key).first()  # of one token one request at a time is answered
    if before is not None:
        if before.asked != asked:
            raise HttpError(422, "Another request had this idempotency key.")
        return before.status, before.body
    status, body = work()
    Answered.objects.create(
        token=token, key=key, asked=asked, status=status, body=json.loads(json.dumps(body, default=str)), at=now
    )
    return status, body
