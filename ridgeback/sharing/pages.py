"""Who may what in a room: its people, invitations and sitters; the addresses by which they come."""

from datetime import date
from typing import Any

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import login
from django.contrib.auth.decorators import login_not_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from ridgeback import clock
from ridgeback.accounts.forms import NewAccount
from ridgeback.accounts.models import Keeper
from ridgeback.daybook.writing import Intent, intent_of
from ridgeback.rooms import keepers
from ridgeback.rooms.access import keeper_of, memberships, owned_room_or_404, room_or_404, rooms_of
from ridgeback.rooms.keepers import BACKEND
from ridgeback.rooms.models import Invitation, Membership, Room, SitterLink
from ridgeback.series.models import Device
from ridgeback.sharing import actions
from ridgeback.sharing.forms import InviteForm, KeepingForm, MemberForm, SitterForm
from ridgeback.web.qr import qr_svg


@require_GET
def people(request: HttpRequest, pk: int) -> HttpResponse:
    """Who may what in a room; what an owner does about it stands beside."""
    return _people(request, room_or_404(request, pk))


def _people(
    request: HttpRequest, room: Room, invite: InviteForm | None = None, sitter: SitterForm | None = None, status: int = 200
) -> HttpResponse:
    today, me = clock.today(), keeper_of(request)
    members = Membership.objects.filter(room=room).exclude(role=Membership.Role.SITTER).select_related("keeper")
    mine = memberships(me).filter(room=room).first()
    fresh = request.session.pop("fresh_link", None)
    waiting = actions.good(today).filter(room=room)
    context = {
        "room": room,
        "me": me.pk,
        "owns": mine is not None and mine.role == Membership.Role.OWNER,
        "mine": mine,
        "members": [_row(one, today) for one in members.order_by("keeper__username")],
        "invitations": waiting.order_by("made_at"),
        "sitters": SitterLink.objects.filter(room=room, ended_at__isnull=True, last_day__gte=today).order_by("first_day"),
        "invite": invite or InviteForm(today=today),
        "sitter": sitter or SitterForm(today=today),
        "fresh": fresh,
        "fresh_qr": qr_svg(fresh) if fresh else "",
        "today": today,
        "keeping": KeepingForm(initial={"raw_days": room.raw_days}),
        "raw_days": settings.RAW_DAYS,
    }
    return render(request, "sharing/people.html", context, status=status)


def _row(one: Membership, today: date) -> dict[str, Any]:
    form = MemberForm(initial={"role": one.role, "until": one.until}, auto_id=f"id_%s_{one.pk}")
    return {"row": one, "form": form, "role": str(Membership.Role(one.role).label), "over": bool(one.until and one.until < today)}


@require_POST
def invite(request: HttpRequest, pk: int) -> HttpResponse:
    """Invite somebody; the address is shown once."""
    room = owned_room_or_404(request, pk)
    form = InviteForm(request.POST, today=clock.today())
    if not form.is_valid():
        return _people(request, room, invite=form, status=422)
    said = form.cleaned_data
    invited = actions.Invited(said["name"], said["role"], said["until"], said["stays_until"])
    _made, token = actions.invite(room, invited, intent_of(request))
    request.session["fresh_link"] = request.build_absolute_uri(reverse("sharing:join", args=[token]))
    return redirect("sharing:people", room.pk)


@require_POST
def keep_readings(request: HttpRequest, pk: int) -> HttpResponse:
    """Say how long the room's readings are kept as they came."""
    room = owned_room_or_404(request, pk)
    form = KeepingForm(request.POST)
    if not form.is_valid():
        messages.error(request, " ".join(str(fault) for fault in form.errors["raw_days"]))
    else:
        Room.objects.filter(pk=room.pk).update(raw_days=form.cleaned_data["raw_days"])
        messages.success(request, _("Saved."))
    return redirect("sharing:people", room.pk)


@require_POST
def end_invitation(request: HttpRequest, pk: int) -> HttpResponse:
    """Take an invitation back."""
    found = get_object_or_404(Invitation, pk=pk, room__in=rooms_of(keeper_of(request)))
    actions.end_invitation(found, intent_of(request))
    return redirect("sharing:people", found.room_id)


@login_not_required
@never_cache
@require_http_methods(["GET", "POST"])
def join(request: HttpRequest, token: str) -> HttpResponse:
    """What somebody is invited to; who has no account makes one here, who has one signs in first."""
    found = actions.invitation_of(token, clock.today())
    if found is None:
        return render(request, "sharing/over.html", status=404)
    keeper = request.user if isinstance(request.user, Keeper) else None
    form = None if keeper is not None else NewAccount(request.POST or None)
    if request.method == "POST" and (form is None or form.is_valid()):
        if keeper is None and form is not None:
            keeper = keepers.add(form.cleaned_data["username"], form.cleaned_data["password1"])
        assert keeper is not None
        actions.join(found, keeper, Intent(keeper, clock.now()))
        if form is not None:
            login(request, keeper, backend=BACKEND)
        messages.success(request, _("You are a member of %(room)s now.") % {"room": found.room.name})
        return redirect("rooms:habitats")
    context = {"found": found, "role": Membership.Role(found.role).label, "form": form, "here": request.path}
    return render(request, "sharing/join.html", context, status=422 if form is not None and form.errors else 200)


@require_POST
def member(request: HttpRequest, pk: int) -> HttpResponse:
    """Let a member do more or less, or go."""
    found = get_object_or_404(
        Membership.objects.exclude(role=Membership.Role.SITTER).select_related("keeper"),
        pk=pk,
        room__in=rooms_of(keeper_of(request)),
    )
    if request.POST.get("do") == "remove":
        actions.remove_member(found, intent_of(request))
        gone = found.keeper_id == keeper_of(request).pk
        if not gone:
            _tell_of_what_stays(request, found)
        return redirect("rooms:habitats") if gone else redirect("sharing:people", found.room_id)
    owned_room_or_404(request, found.room_id)
    form = MemberForm(request.POST)
    if not form.is_valid():
        messages.error(request, _("That is no role or no day; nothing was changed."))
    else:
        actions.change_member(found, form.cleaned_data["role"], form.cleaned_data["until"], intent_of(request))
    return redirect("sharing:people", found.room_id)


def _tell_of_what_stays(request: HttpRequest, gone: Membership) -> None:
    """Say what somebody who is no member any more may still know: it is good for whoever has it."""
    today, room = clock.today(), gone.room_id
    sitters = SitterLink.objects.filter(room=room, made_by=gone.keeper_id, ended_at__isnull=True, last_day__gte=today)
    known = [str(_("addresses of sitters"))] if sitters.exists() else []
    known += [str(_("keys of devices"))] if Device.objects.filter(room=room, revoked_at__isnull=True).exists() else []
    if known and gone.role != Membership.Role.VIEWER:
        said = {"name": gone.keeper.username, "known": ", ".join(known)}
        messages.warning(request, _("What %(name)s may still know stays good until you end or renew it: %(known)s.") % said)


@require_POST
def let_sit(request: HttpRequest, pk: int) -> HttpResponse:
    """Make a sitter's link; it is shown once."""
    room = owned_room_or_404(request, pk)
    form = SitterForm(request.POST, today=clock.today())
    if not form.is_valid():
        return _people(request, room, sitter=form, status=422)
    said = form.cleaned_data
    who = actions.Sits(said["name"], said["first_day"], said["last_day"], said["call"])
    _made, token = actions.let_sit(room, who, intent_of(request))
    request.session["fresh_link"] = request.build_absolute_uri(reverse("sharing:sit", args=[token]))
    return redirect("sharing:people", room.pk)


@require_POST
def end_sitting(request: HttpRequest, pk: int) -> HttpResponse:
    """End a sitter's link."""
    found = get_object_or_404(SitterLink.objects.select_related("keeper"), pk=pk, room__in=rooms_of(keeper_of(request)))
    actions.end_sitting(found, intent_of(request))
    return redirect("sharing:people", found.room_id)


@login_not_required
@never_cache
@require_http_methods(["GET", "POST"])
def sit(request: HttpRequest, token: str) -> HttpResponse:
    """A sitter's own address: what it is for, and on its days the way to the round."""
    found = actions.sitter_of(token, clock.today())
    if found is None:
        return render(request, "sharing/over.html", status=404)
    begun = found.first_day <= clock.today()
    if request.method == "POST" and begun:
        login(request, found.keeper, backend=BACKEND)
        SitterLink.objects.filter(pk=found.pk, opened_at__isnull=True).update(opened_at=clock.now())
        return redirect("keeping:round")
    return render(request, "sharing/sit.html", {"found": found, "begun": begun})
