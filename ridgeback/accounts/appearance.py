"""Choosing how the program looks and which language it speaks; for everybody, signed in or not."""

from django.conf import settings
from django.contrib.auth.decorators import login_not_required
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.utils.translation import check_for_language
from django.views.decorators.http import require_POST

from ridgeback.accounts.models import Keeper
from ridgeback.web.addresses import back_of
from ridgeback.web.look import COOKIE, LOOKS

A_YEAR_S = 365 * 24 * 3600


@login_not_required
@require_POST
def appearance(request: HttpRequest) -> HttpResponse:
    """Take the look or the language that was pressed, and go back; a keeper's letters speak it too."""
    answer = redirect(back_of(request, "/"))
    chosen: dict[str, str] = {}
    if request.POST.get("look") in LOOKS:
        chosen[COOKIE] = request.POST["look"]
    tongue = request.POST.get("tongue", "")
    if tongue in dict(settings.LANGUAGES) and check_for_language(tongue):
        chosen[settings.LANGUAGE_COOKIE_NAME] = tongue
        if isinstance(request.user, Keeper):
            Keeper.objects.filter(pk=request.user.pk).update(language=tongue)
    for name, value in chosen.items():
        answer.set_cookie(name, value, max_age=A_YEAR_S, samesite="Lax", secure=request.is_secure(), httponly=True)
    return answer
