"""Letters of the watch: what cannot wait at once, the rest of a room in one letter each morning; each thing once.

Without RIDGEBACK_MAIL_URL none are sent. A letter that could not be sent is tried again with the next look.
"""

import logging
from datetime import datetime
from typing import Final
from urllib.parse import urljoin

from django.conf import settings
from django.core.mail import EmailMessage
from django.urls import reverse
from django.utils import timezone
from django.utils.translation import gettext as _
from django.utils.translation import ngettext, override

from husbandry.codes import WatchCode
from ridgeback.accounts.context import units_of
from ridgeback.accounts.models import Keeper
from ridgeback.daybook import log, noticed
from ridgeback.daybook.models import Letter, Notice
from ridgeback.language import watchwords

logger = logging.getLogger(__name__)

AT_ONCE: Final = (WatchCode.READING_DANGER.value,)
AT_ONCE_LEVEL: Final = "vet"
MOST: Final = 40  # things in one letter


def send(now: datetime, room: int, *, morning: bool) -> int:
    """Send what is due of a room to every keeper of it who wants letters; returns how many letters went."""
    if not settings.MAIL_URL:
        return 0
    there = Keeper.objects.filter(is_active=True, membership__room=room)
    wanted = there.exclude(letters=Keeper.Letters.NONE).exclude(email="")
    return sum(_to(keeper, now, room, morning=morning) for keeper in wanted)


def _to(keeper: Keeper, now: datetime, room: int, *, morning: bool) -> int:
    found = due(keeper, now, room, morning=morning)
    if not found:
        return 0
    try:
        with override(keeper.language or settings.LANGUAGE_CODE):
            written = letter(keeper, found)
        written.send()
    except OSError as error:  # smtplib's own errors are among them
        logger.warning("A letter to %s could not be sent and is tried again: %s", keeper.username, error)
        return 0
    Letter.objects.bulk_create([Letter(keeper=keeper, notice=row, at=now) for row in found], ignore_conflicts=True)
    return 1


def due(keeper: Keeper, now: datetime, room: int, *, morning: bool) -> list[Notice]:
    """A room's notices that a keeper has not been written of: what cannot wait, and in the morning the rest where all is wanted."""
    standing = Notice.objects.filter(room=room, ended_at__isnull=True).exclude(quiet_until__gte=log.day_of(now))
    fresh = standing.exclude(letters__keeper=keeper).select_related("habitat", "animal", "room").order_by("since", "id")
    every = morning and keeper.letters == Keeper.Letters.ALL
    return [row for row in fresh if every or row.code in AT_ONCE or row.level == AT_ONCE_LEVEL][:MOST]


def letter(keeper: Keeper, found: list[Notice]) -> EmailMessage:
    """The letter of some notices, in the keeper's units."""
    units = units_of(keeper)
    blocks = []
    for row in found:
        said, first = watchwords.words(WatchCode(row.code), noticed.unpacked(row.told), units)
        name = row.animal.called if row.animal is not None else row.habitat.name if row.habitat is not None else row.room.name
        page = reverse("keeping:watch") if row.habitat is None else reverse("keeping:now", args=[row.habitat_id])
        since = timezone.localtime(row.since)
        when = _("Since %(day)s, %(clock)s.") % {"day": f"{since:%Y-%m-%d}", "clock": f"{since:%H:%M}"}
        blocks.append(f"{name}: {said}\n{when}\n{first}\n{urljoin(settings.ADDRESS, page)}")
    count = len(found)
    told = {"n": count, "room": found[0].room.name}
    subject = ngettext("%(room)s: one thing to look at", "%(room)s: %(n)d things to look at", count) % told
    end = _("You get this because your account asks for letters of the watch; change it there: %(page)s") % {
        "page": urljoin(settings.ADDRESS, reverse("accounts:account"))
    }
    return EmailMessage(subject, "\n\n".join([*blocks, end]) + "\n", settings.DEFAULT_FROM_EMAIL, [keeper.email])
