"""Signing in, a keeper's own account, and what helps who has forgotten the password."""

from typing import Any

from django.conf import settings
from django.contrib import messages
from django.contrib.auth import logout
from django.contrib.auth.decorators import login_not_required
from django.contrib.auth.forms import AuthenticationForm, PasswordChangeForm, SetPasswordForm
from django.contrib.auth.views import LoginView, PasswordChangeView, PasswordResetConfirmView
from django.core.exceptions import PermissionDenied
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse_lazy
from django.utils.decorators import method_decorator
from django.utils.translation import gettext_lazy as _
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_POST

from ridgeback.accounts import happened, links, second, sessions, tasks, tries
from ridgeback.accounts.forms import ForgottenForm, LettersForm, UnitsForm
from ridgeback.accounts.models import Keeper


class SignIn(LoginView):
    template_name = "accounts/sign_in.html"
    redirect_authenticated_user = True

    def get_context_data(self, **more: Any) -> dict[str, Any]:
        return super().get_context_data(**more) | {"posts": bool(settings.MAIL_URL)}

    def post(self, request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        if not tries.allowed(request, self._name()):
            return render(request, "accounts/locked.html", status=429)
        return super().post(request, *args, **kwargs)

    def form_valid(self, form: AuthenticationForm) -> HttpResponse:
        tries.note(self.request, self._name(), good=True)
        keeper = form.get_user()
        if isinstance(keeper, Keeper) and second.wanted_of(keeper):
            return second.ask(self.request, keeper, self.get_success_url())
        return super().form_valid(form)

    def form_invalid(self, form: AuthenticationForm) -> HttpResponse:
        tries.note(self.request, self._name(), good=False)
        return super().form_invalid(form)

    def _name(self) -> str:
        return self.request.POST.get("username", "")[:300]


@require_POST
def sign_out(request: HttpRequest) -> HttpResponse:
    logout(request)
    return redirect("accounts:sign-in")


def account(request: HttpRequest) -> HttpResponse:
    """The keeper's own units, letters and password."""
    keeper = _keeper(request)
    about_letters = "letters" in request.POST
    form = UnitsForm(None if about_letters else request.POST or None, instance=keeper)
    letters = LettersForm(request.POST if about_letters else None, instance=keeper)
    sent = letters if about_letters else form
    before = keeper.email
    if "password" in letters.errors and letters["password"].data and tries.lost_the_session(request):
        return redirect("accounts:sign-in")
    if request.method == "POST" and sent.is_valid():
        sent.save()
        if about_letters and keeper.email != before:
            happened.note(keeper, "address", also_to=before)  # who had it before notices
        messages.success(request, _("Letters saved.") if about_letters else _("Units saved."))
        return redirect("accounts:account")
    context = {
        "form": form,
        "letters": letters,
        "posts": bool(settings.MAIL_URL),
        "browsers": sessions.of(keeper, request.session.session_key),
        "happened": happened.of(keeper),
        **second.told(keeper),
    }
    return render(request, "accounts/account.html", context, status=422 if letters.errors else 200)


class ChangePassword(PasswordChangeView):
    template_name = "accounts/password.html"
    success_url = reverse_lazy("accounts:account")

    def form_valid(self, form: PasswordChangeForm) -> HttpResponse:
        happened.note(_keeper(self.request), "password")
        return super().form_valid(form)

    def form_invalid(self, form: PasswordChangeForm) -> HttpResponse:
        """Whoever guesses at the old password in somebody's session loses the session; the keeper signs in again."""
        if "old_password" in form.errors and tries.lost_the_session(self.request):
            return redirect("accounts:sign-in")
        return super().form_invalid(form)


@method_decorator([login_not_required, never_cache], name="dispatch")
class SetPassword(PasswordResetConfirmView):
    template_name = "accounts/set_password.html"
    token_generator = links.tokens
    success_url = reverse_lazy("accounts:sign-in")

    def form_valid(self, form: SetPasswordForm) -> HttpResponse:
        happened.note(form.user, "password")
        return super().form_valid(form)


@login_not_required
@never_cache
def forgotten(request: HttpRequest) -> HttpResponse:
    """Ask for a link by letter. The answer is the same for every address: it tells nobody who has an account."""
    if not settings.MAIL_URL:
        raise Http404
    form = ForgottenForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        if not tries.may_ask_for_a_link(request, form.cleaned_data["email"]):
            return render(request, "accounts/locked.html", status=429)
        tasks.send_link.defer(email=form.cleaned_data["email"])
        return render(request, "accounts/forgotten.html", {"sent": True})
    return render(request, "accounts/forgotten.html", {"form": form}, status=422 if form.errors else 200)


def _keeper(request: HttpRequest) -> Keeper:
    if not isinstance(request.user, Keeper):
        raise PermissionDenied
    return request.user
