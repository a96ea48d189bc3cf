"""Photos of the daybook: sent, shown."""

from typing import Any

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET

from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.models import Event, Photo
from ridgeback.daybook.quota import make_sure_of_room
from ridgeback.daybook.writing import intent_of
from ridgeback.keeping.access import event_or_404
from ridgeback.keeping.actions.entries import Whose, write_entry
from ridgeback.keeping.entry_forms import EntryForm
from ridgeback.keeping.photos import NoPhotoError, made_small
from ridgeback.language import entrywords
from ridgeback.web.addresses import own_address


def write(request: HttpRequest, whose: Whose, context: dict[str, Any], back: str) -> HttpResponse:
    """Keep a photo with a note; what is no picture is said to be none, and nothing is written."""
    form = EntryForm(request.POST or None, kind=Event.Kind.PHOTO, units=units_of(request.user), now=clock.now())
    fault = ""
    if request.method == "POST" and form.is_valid():
        sent = request.FILES.get("picture")
        try:
            small = made_small(sent.read() if sent else b"")
        except NoPhotoError:
            fault = _("That file is no picture that can be read. A photo as a phone takes it (JPEG or PNG) can.")
        else:
            make_sure_of_room(whose.room_id, len(small.jpeg))
            event = write_entry(whose, intent_of(request), form.at(), Event.Kind.PHOTO, form.payload(), clock.today())
            Photo.objects.create(event=event, jpeg=small.jpeg, width=small.width, height=small.height)
            messages.info(request, _("The photo is kept, without where and with what it was taken."))
            return redirect(own_address(request, request.POST.get("next", "")) or back)
    words = entrywords.KINDS[Event.Kind.PHOTO]
    told = {"form": form, "title": words.write, "caution": "", "kind": Event.Kind.PHOTO, "picture": True, "fault": fault}
    return render(request, "keeping/write.html", context | told | {"back": back}, status=422 if fault or form.errors else 200)


@require_GET
def show(request: HttpRequest, pk: int) -> HttpResponse:
    """The picture of an entry."""
    event = event_or_404(request, pk)
    photo = Photo.objects.filter(event=event).first()
    if photo is None:
        raise Http404
    response = HttpResponse(bytes(photo.jpeg), content_type="image/jpeg")
    response["Cache-Control"] = "private, max-age=86400, immutable"
    return response
