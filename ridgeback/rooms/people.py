"""The administrator's page: the accounts, a new one with its room, links to set a password."""

from django.contrib import messages
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST

from ridgeback.accounts import links, second
from ridgeback.accounts.forms import NewKeeperForm
from ridgeback.accounts.models import Keeper
from ridgeback.rooms import keepers


def people(request: HttpRequest) -> HttpResponse:
    """The administrator's list of accounts; a new one gets a room of its own and a link to set its password."""
    _administrator(request)
    form = NewKeeperForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        keeper = keepers.add(form.cleaned_data["username"])
        return render(request, "accounts/link.html", {"person": keeper, "link": request.build_absolute_uri(links.make(keeper))})
    everybody = Keeper.objects.filter(sits=False).order_by("username")
    context = {"form": form, "people": everybody, "with_second": second.who_has_one()}
    return render(request, "accounts/people.html", context)


@require_POST
def reset_link(request: HttpRequest, pk: int) -> HttpResponse:
    """Make a link that lets a keeper set a new password; it is good for a day and once."""
    _administrator(request)
    person = get_object_or_404(Keeper, pk=pk, is_active=True, sits=False)
    return render(request, "accounts/link.html", {"person": person, "link": request.build_absolute_uri(links.make(person))})


@require_POST
def second_off(request: HttpRequest, pk: int) -> HttpResponse:
    """Take the second factor off for a keeper who has lost the phone and the codes; they read of it."""
    _administrator(request)
    person = get_object_or_404(Keeper, pk=pk, is_active=True, sits=False)
    second.take_off(person)
    messages.success(request, _("%(name)s signs in with the password alone now.") % {"name": person.username})
    return redirect("accounts:people")


def _administrator(request: HttpRequest) -> None:
    if not (isinstance(request.user, Keeper) and request.user.is_staff):
        raise PermissionDenied
