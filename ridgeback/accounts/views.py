"""Sign-in, a keeper's own account, and the administrator's reset links."""

from django.contrib import messages
from django.contrib.auth import logout
from django.contrib.auth.decorators import login_not_required
from django.contrib.auth.tokens import default_token_generator
from django.contrib.auth.views import LoginView, PasswordChangeView, PasswordResetConfirmView
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse, reverse_lazy
from django.utils.decorators import method_decorator
from django.utils.encoding import force_bytes
from django.utils.http import urlsafe_base64_encode
from django.utils.translation import gettext_lazy as _
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_POST

from ridgeback.accounts import keepers
from ridgeback.accounts.forms import NewKeeperForm, UnitsForm
from ridgeback.accounts.models import Keeper


class SignIn(LoginView):
    template_name = "accounts/sign_in.html"
    redirect_authenticated_user = True


@require_POST
def sign_out(request: HttpRequest) -> HttpResponse:
    logout(request)
    return redirect("accounts:sign-in")


def account(request: HttpRequest) -> HttpResponse:
    """The keeper's own units and password."""
    keeper = _keeper(request)
    form = UnitsForm(request.POST or None, instance=keeper)
    if request.method == "POST" and form.is_valid():
        form.save()
        messages.success(request, _("Units saved."))
        return redirect("accounts:account")
    return render(request, "accounts/account.html", {"form": form})


class ChangePassword(PasswordChangeView):
    template_name = "accounts/password.html"
    success_url = reverse_lazy("accounts:account")


def people(request: HttpRequest) -> HttpResponse:
    """The administrator's list of accounts; a new one gets a room of its own and a link to set its password."""
    _administrator(request)
    form = NewKeeperForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        keeper = keepers.add(form.cleaned_data["username"])
        return render(request, "accounts/link.html", {"person": keeper, "link": _link(request, keeper)})
    return render(request, "accounts/people.html", {"form": form, "people": Keeper.objects.order_by("username")})


@require_POST
def reset_link(request: HttpRequest, pk: int) -> HttpResponse:
    """Make a link that lets a keeper set a new password; it is good for a day and once."""
    _administrator(request)
    person = get_object_or_404(Keeper, pk=pk, is_active=True)
    return render(request, "accounts/link.html", {"person": person, "link": _link(request, person)})


@method_decorator([login_not_required, never_cache], name="dispatch")
class SetPassword(PasswordResetConfirmView):
    template_name = "accounts/set_password.html"
    success_url = reverse_lazy("accounts:sign-in")


def _keeper(request: HttpRequest) -> Keeper:
    if not isinstance(request.user, Keeper):
        raise PermissionDenied
    return request.user


def _administrator(request: HttpRequest) -> None:
    if not _keeper(request).is_staff:
        raise PermissionDenied


def _link(request: HttpRequest, keeper: Keeper) -> str:
    token = default_token_generator.make_token(keeper)
    uid = urlsafe_base64_encode(force_bytes(keeper.pk))
    return request.build_absolute_uri(reverse("accounts:reset", args=[uid, token]))
