"""How files arrive: with their form, or in parts before it."""

from typing import Final

from django.core.files.uploadedfile import UploadedFile
from django.db.models import F
from django.http import HttpRequest

from husbandry.errors import HusbandryError
from ridgeback import clock
from ridgeback.accounts.models import Keeper
from ridgeback.uploads.models import Part, Upload
from ridgeback.web import typed

LARGEST_BYTES: Final = 4_000_000_000
LARGEST_PART: Final = 16_000_000
# So many files of a keeper may wait in a room to be read; the oldest gives way.
MOST_WAITING: Final = 3


class UnfitPartError(HusbandryError, ValueError):
    """A part that does not follow on what is here, or is longer than was said."""


def begin(room_id: int | None, author: Keeper, name: str, size: int) -> Upload:
    """Make room for a file of so many bytes."""
    waiting = Upload.objects.filter(room=room_id, author=author, claimed=False).order_by("-at", "-id")
    for old in waiting[MOST_WAITING - 1 :]:
        old.delete()
    return Upload.objects.create(room_id=room_id, author=author, name=name[-120:], size=size, at=clock.now())


def add(upload: Upload, begins: int, content: bytes) -> Upload:
    """Add a part at the end of what is here; the upload has to be locked. Raises UnfitPartError."""
    if begins != upload.received or not 0 < len(content) <= min(LARGEST_PART, upload.size - upload.received):
        raise UnfitPartError
    Part.objects.create(upload=upload, begins=begins, length=len(content), content=content)
    upload.received += len(content)
    upload.save(update_fields=["received"])
    return upload


def brought(request: HttpRequest, room_id: int | None, author: Keeper) -> Upload | None:
    """The file that a form brings: one sent in parts before it, or the one sent with it; None for none, or an empty one."""
    if request.POST.get("upload"):
        key = typed.key(request.POST["upload"])
        return Upload.objects.filter(pk=key, room=room_id, author=author, claimed=False, received=F("size")).first()
    sent = request.FILES.get("file")
    return kept(room_id, author, sent) if isinstance(sent, UploadedFile) and sent.size else None


def kept(room_id: int | None, author: Keeper, sent: UploadedFile) -> Upload:
    """Keep a file that came with its form."""
    made = begin(room_id, author, sent.name or "", sent.size or 0)
    while content := sent.read(LARGEST_PART):
        add(made, made.received, content)
    return made
