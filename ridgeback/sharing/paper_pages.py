"""A habitat on paper and behind its QR code: the cage card, the care plan of this animal and enclosure, the public page."""

from typing import Any, Final

from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.db.models import QuerySet
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.text import slugify
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods

from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.models import Photo
from ridgeback.daybook.writing import intent_of, writing
from ridgeback.keeping import quarantine
from ridgeback.keeping.animal_facts import weights_of
from ridgeback.planner.mapping import UnreadablePlanError
from ridgeback.reviewing.visitors import for_visitors
from ridgeback.rooms.access import habitat_or_404
from ridgeback.sharing import setup, summary
from ridgeback.sharing.models import PublicPage
from ridgeback.web.paper import printed
from ridgeback.web.qr import qr_svg
from ridgeback.web.tokens import new_token

TOKEN_BYTES: Final = 12
LOOK_COSTS: Final = 1.0
WEIGHTS: Final = 6


def _pages() -> QuerySet[PublicPage]:
    return PublicPage.objects.select_related("habitat__room")


@require_http_methods(["GET", "POST"])
def public_page(request: HttpRequest, pk: int) -> HttpResponse:
    """Choose what is shown of a habitat behind its QR code; end it."""
    habitat = habitat_or_404(request, pk)
    if request.method == "POST":
        intent = intent_of(request)
        with writing(intent, habitats=[pk]):
            if request.POST.get("do") == "end":
                PublicPage.objects.filter(habitat=habitat).delete()
                messages.info(request, _("The address of this habitat shows nothing any more."))
            else:
                said = {
                    "shows": [part for part in summary.PARTS if part in request.POST.getlist("shows")],
                    "note": request.POST.get("note", "").strip()[:400],
                    "made_by": intent.author,
                }
                new = {"token": new_token(TOKEN_BYTES), "made_at": intent.at}
                PublicPage.objects.update_or_create(habitat=habitat, defaults=said, create_defaults=said | new)
        return redirect("sharing:public-page", pk)
    page = _pages().filter(habitat=habitat).first()
    address = "" if page is None else request.build_absolute_uri(reverse("sharing:see", args=[page.token]))
    shown = list(summary.PARTS) if page is None else page.shows
    context = {
        "habitat": habitat,
        "page": page,
        "address": address,
        "qr": qr_svg(address) if address else "",
        "parts": [{"key": key, "name": name, "on": key in shown} for key, name in summary.PARTS.items()],
    }
    return render(request, "sharing/public_page.html", context)


def _open(token: str) -> PublicPage:
    return get_object_or_404(_pages(), token=token, habitat__set_aside_at__isnull=True)


@for_visitors(LOOK_COSTS, always=True)
@require_GET
def see(request: HttpRequest, token: str) -> HttpResponse:
    """What is shown of a habitat to whoever scanned its card."""
    page = _open(token)
    try:
        told = summary.of_habitat(page.habitat, units_of(request.user), clock.today())
    except UnreadablePlanError:
        raise Http404 from None
    shows = set(page.shows)
    told["home"] = told.pop("habitat")  # no way to its other pages stands above
    context = told | {"page": page, "shows": shows, "photo": "photo" in shows and summary.newest_photo(page.habitat) is not None}
    answer = render(request, "sharing/see.html", context)
    answer["X-Robots-Tag"] = "noindex"
    return answer


@login_not_required
@require_GET
def see_photo(request: HttpRequest, token: str) -> HttpResponse:
    """The newest photo, where it is shown."""
    page = _open(token)
    event = summary.newest_photo(page.habitat) if "photo" in page.shows else None
    photo = Photo.objects.filter(event=event).first() if event is not None else None
    if photo is None:
        raise Http404
    answer = HttpResponse(bytes(photo.jpeg), content_type="image/jpeg")
    answer["X-Robots-Tag"] = "noindex"
    answer["Cache-Control"] = "private, max-age=600"
    return answer


@require_GET
def cage_card(request: HttpRequest, pk: int) -> HttpResponse:
    """A card for the enclosure, A6: who lives there, how it is kept, what it eats; the code leads to its page."""
    habitat = habitat_or_404(request, pk)
    page = _pages().filter(habitat=habitat).first()
    where = reverse("sharing:see", args=[page.token]) if page is not None else reverse("keeping:now", args=[pk])
    told = summary.of_habitat(habitat, units_of(request.user), clock.today())
    context = told | {"qr": qr_svg(request.build_absolute_uri(where)), "public": page is not None, "today": clock.today()}
    return printed("sharing/card.html", context, f"card-{slugify(habitat.name) or pk}")


@require_GET
def setup_drawing(request: HttpRequest, pk: int) -> HttpResponse:
    """The set-up to scale, with where everything stands and the cut list."""
    habitat, units, today = habitat_or_404(request, pk), units_of(request.user), clock.today()
    told = summary.of_habitat(habitat, units, today)
    plan = told["plan"]
    scale = setup.scale_of(told["section"])
    context = told | {
        "scale": scale,
        "bar": f"{100 / scale:.2f}",
        "views": setup.views(told["section"], scale),
        "places": setup.places(plan, units),
        "cuts": setup.cuts(plan),
        "today": today,
    }
    return printed("sharing/setup.html", context, f"set-up-{slugify(habitat.name) or pk}")


@require_GET
def care_plan(request: HttpRequest, pk: int) -> HttpResponse:
    """The care plan of this animal in this enclosure, on two pages."""
    habitat, units, today = habitat_or_404(request, pk), units_of(request.user), clock.today()
    told: dict[str, Any] = summary.of_habitat(habitat, units, today)
    for one in told["residents"]:
        one["weights"] = weights_of(one["animal"], units, WEIGHTS)
    told["apart"] = quarantine.lasting(habitat, told["plan"], told["profile"], today)
    return printed("sharing/care_plan.html", told | {"today": today}, f"care-plan-{slugify(habitat.name) or pk}")
