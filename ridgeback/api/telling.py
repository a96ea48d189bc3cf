"""What webhooks are told: found in what was written, kept until it is taken, tried again with growing pauses, given up at last."""

import json
import logging
from collections.abc import Iterator
from datetime import datetime, timedelta
from typing import Any, Final

from django.db import transaction
from django.db.models import F
from django.utils.translation import gettext_lazy as _
from django.utils.translation import override

from husbandry.codes import WatchCode
from ridgeback.api import posting
from ridgeback.api.models import Delivery, Webhook
from ridgeback.daybook import noticed
from ridgeback.daybook.models import Event, Notice
from ridgeback.language import watchwords
from ridgeback.rooms.access import memberships
from ridgeback.rooms.models import Membership
from ridgeback.units import METRIC

log = logging.getLogger(__name__)

TELLS: Final = {
    "entry.written": _("an entry was written down"),
    "entry.taken_back": _("an entry was taken back or corrected"),
    "notice.begun": _("the watch has found something to look at"),
    "notice.ended": _("what the watch had found is over"),
}
PAUSES: Final = tuple(timedelta(minutes=one) for one in (1, 5, 30, 120, 480, 1440))
PAUSED_AFTER: Final = 20  # failures in a row, of all it is told
LONGEST_WRITE: Final = timedelta(hours=1)  # what was written before that is there, or never will be
KEPT: Final = timedelta(days=14)
AT_ONCE: Final = 200  # sent
AT_A_LOOK: Final = 2000  # found


def begin(webhook: Webhook) -> None:
    """Begin with what is written from now on."""
    webhook.seen = Event.every.order_by("-pk").values_list("pk", flat=True).first() or 0
    webhook.seen_notice = Notice.objects.order_by("-pk").values_list("pk", flat=True).first() or 0


def tell(now: datetime) -> None:
    """Tell every webhook what is new, and again what was not taken."""
    Delivery.objects.filter(made_at__lt=now - KEPT).delete()
    standing = Webhook.objects.filter(ended_at__isnull=True, failures__lt=PAUSED_AFTER).select_related("made_by")
    for webhook in standing:
        owner = memberships(webhook.made_by).filter(room=webhook.room_id, role=Membership.Role.OWNER)
        if webhook.made_by.is_active and owner.exists():
            notice(webhook, now)
            deliver(webhook, now)


def notice(webhook: Webhook, now: datetime) -> None:
    """Find what is new for a webhook."""
    with transaction.atomic():
        fresh = [
            Delivery(webhook=webhook, kind=kind, about=about, body=body, made_at=now, due_at=now)
            for kind, about, body in _new(webhook, now)
        ]
        Delivery.objects.bulk_create(fresh, ignore_conflicts=True, batch_size=1000)
        old = Event.every.filter(room=webhook.room_id, pk__gt=webhook.seen, written_at__lt=now - LONGEST_WRITE)
        newest = old.order_by("-pk").values_list("pk", flat=True).first()
        if newest is not None and sum(one.kind == "entry.written" for one in fresh) < AT_A_LOOK:
            Webhook.objects.filter(pk=webhook.pk).update(seen=newest)
            webhook.seen = newest


def _new(webhook: Webhook, now: datetime) -> Iterator[tuple[str, int, dict[str, Any]]]:
    since = max(webhook.made_at, now - KEPT)
    if "entry.written" in webhook.tells:
        for event in _untold(webhook, "entry.written", Event.every.filter(room=webhook.room_id, pk__gt=webhook.seen)):
            yield "entry.written", event.pk, _entry(event)
    if "entry.taken_back" in webhook.tells:
        gone = Event.every.filter(room=webhook.room_id, taken_back_at__gte=since)
        for event in _untold(webhook, "entry.taken_back", gone):
            yield "entry.taken_back", event.pk, _entry(event)
    here = Notice.objects.filter(room=webhook.room_id)
    begun = here.filter(looked_at__gte=since, pk__gt=webhook.seen_notice)
    for kind, found in {"notice.begun": begun, "notice.ended": here.filter(ended_at__gte=since)}.items():
        if kind in webhook.tells:
            for row in _untold(webhook, kind, found):
                yield kind, row.pk, _notice(row)


def _untold(webhook: Webhook, kind: str, rows: Any) -> Any:
    told = Delivery.objects.filter(webhook=webhook, kind=kind)
    return rows.exclude(pk__in=told.values("about")).order_by("pk")[:AT_A_LOOK]


def _entry(row: Event) -> dict[str, Any]:
    said = {"id": row.pk, "kind": row.kind, "habitat": row.habitat_id, "animal": row.animal_id, "payload": row.payload}
    return said | {"at": row.at.isoformat(), "author": row.author.username if row.author else "", "replaces": row.replaces_id}


def _notice(row: Notice) -> dict[str, Any]:
    said = {"id": row.pk, "code": row.code, "level": row.level, "habitat": row.habitat_id, "animal": row.animal_id}
    ended = row.ended_at.isoformat() if row.ended_at else None
    with override("en"):
        head, more = watchwords.words(WatchCode(row.code), noticed.unpacked(row.told), METRIC)
    return said | {"since": row.since.isoformat(), "ended": ended, "said": f"{head} {more}".strip()}


def deliver(webhook: Webhook, now: datetime) -> None:
    """Send what is due, oldest first; the first that is not taken lets the rest wait for the next time."""
    due = Delivery.objects.filter(webhook=webhook, taken_at__isnull=True, due_at__lte=now).order_by("pk")
    for one in due[:AT_ONCE]:
        body = json.dumps({"type": one.kind, "timestamp": one.made_at.isoformat(), "room": webhook.room_id, "data": one.body})
        try:
            posting.post(webhook, f"msg_{webhook.pk}_{one.pk}", body.encode(), now)
        except posting.NotTakenError as error:
            _not_taken(webhook, one, error, now)
            return
        Delivery.objects.filter(pk=one.pk).update(taken_at=now, tries=one.tries + 1)
        Webhook.objects.filter(pk=webhook.pk).update(failures=0, answered_at=now, fault="")


def _not_taken(webhook: Webhook, one: Delivery, error: posting.NotTakenError, now: datetime) -> None:
    pause = PAUSES[one.tries] if one.tries < len(PAUSES) else None
    log.info("webhook %s: %s", webhook.pk, error.said)
    Delivery.objects.filter(pk=one.pk).update(tries=one.tries + 1, due_at=None if pause is None else now + pause)
    Webhook.objects.filter(pk=webhook.pk).update(failures=F("failures") + 1, fault=error.said[:200])


def try_out(webhook: Webhook, now: datetime) -> None:
    """Send a test; where it is taken, what waits goes on. Raises NotTakenError."""
    body = json.dumps({"type": "test", "timestamp": now.isoformat(), "room": webhook.room_id, "data": {}})
    posting.post(webhook, f"msg_{webhook.pk}_test_{int(now.timestamp())}", body.encode(), now)
    Delivery.objects.filter(webhook=webhook, taken_at__isnull=True, due_at__isnull=False).update(due_at=now)
    Webhook.objects.filter(pk=webhook.pk).update(failures=0, answered_at=now, fault="")
