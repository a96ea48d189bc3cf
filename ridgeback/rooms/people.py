"""The administrator's page: the accounts, who is invited to have one, and what helps who cannot sign in."""

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import login
from django.contrib.auth.decorators import login_not_required
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_http_methods, require_POST

from ridgeback import backups, clock
from ridgeback.accounts import happened, links, second
from ridgeback.accounts.forms import InvitedForm, NewAccount
from ridgeback.accounts.models import AccountInvitation, Keeper
from ridgeback.rooms import keepers
from ridgeback.web.qr import qr_svg

FRESH = "fresh_account_link"


def people(request: HttpRequest) -> HttpResponse:
    """The administrator's list of accounts; who is invited gets an address that is shown once."""
    me = _administrator(request)
    if _unproven(me):
        return render(request, "accounts/prove.html", status=403)
    form = InvitedForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        token = keepers.invite(form.cleaned_data["name"], me, clock.now())
        request.session[FRESH] = request.build_absolute_uri(reverse("accounts:welcome", args=[token]))
        return redirect("accounts:people")
    fresh = request.session.pop(FRESH, None)
    waiting = AccountInvitation.objects.filter(used_at__isnull=True, ended_at__isnull=True, until__gt=clock.now())
    context = {
        "form": form,
        "people": Keeper.objects.filter(sits=False).order_by("username"),
        "with_second": second.who_has_one(),
        "invitations": waiting.order_by("made_at"),
        "fresh": fresh,
        "fresh_qr": qr_svg(fresh) if fresh else "",
        "backups": backups.told(clock.now()),
    }
    return render(request, "accounts/people.html", context, status=422 if form.errors else 200)


@require_POST
def end_invitation(request: HttpRequest, pk: int) -> HttpResponse:
    """Take an invitation back."""
    _administrator(request)
    found = get_object_or_404(AccountInvitation, pk=pk)
    AccountInvitation.objects.filter(pk=found.pk, used_at__isnull=True, ended_at__isnull=True).update(ended_at=clock.now())
    return redirect("accounts:people")


@login_not_required
@never_cache
@require_http_methods(["GET", "POST"])
def welcome(request: HttpRequest, token: str) -> HttpResponse:
    """Where somebody who is invited chooses a name and a password, and has an account with a room of its own."""
    found = keepers.invitation_of(token, clock.now())
    if found is None:
        return render(request, "sharing/over.html", status=404)
    if request.user.is_authenticated:
        messages.info(request, _("You have an account already and are signed in with it; the invitation is still good."))
        return redirect("rooms:habitats")
    form = NewAccount(request.POST or None)
    if request.method == "POST" and form.is_valid():
        made = keepers.take_up(found, form.cleaned_data["username"], form.cleaned_data["password1"], clock.now())
        if made is None:
            return render(request, "sharing/over.html", status=404)
        login(request, made, backend=keepers.BACKEND)
        return redirect("rooms:habitats")
    return render(request, "accounts/welcome.html", {"found": found, "form": form}, status=422 if form.errors else 200)


@require_POST
def reset_link(request: HttpRequest, pk: int) -> HttpResponse:
    """Make a link for who has forgotten the password and has no address for letters; they read of it."""
    _administrator(request)
    person = get_object_or_404(Keeper, pk=pk, is_active=True, sits=False)
    happened.note(person, "link")
    return render(request, "accounts/link.html", {"person": person, "link": request.build_absolute_uri(links.make(person))})


@require_POST
def second_off(request: HttpRequest, pk: int) -> HttpResponse:
    """Take the second factor off for a keeper who has lost the phone and the codes; they read of it."""
    _administrator(request)
    person = get_object_or_404(Keeper, pk=pk, is_active=True, sits=False)
    second.take_off(person)
    messages.success(request, _("%(name)s signs in with the password alone now.") % {"name": person.username})
    return redirect("accounts:people")


def _administrator(request: HttpRequest) -> Keeper:
    if not (isinstance(request.user, Keeper) and request.user.is_staff):
        raise PermissionDenied
    if request.method == "POST" and _unproven(request.user):
        raise PermissionDenied
    return request.user


def _unproven(me: Keeper) -> bool:
    """Tell whether an administrator has yet to set a second factor up before doing anything with accounts."""
    return settings.ADMINISTRATORS_PROVE and not second.wanted_of(me)
