"""Links that set a password: good for a day, once, and only the newest."""

from django.contrib.auth.tokens import PasswordResetTokenGenerator
from django.db.models import F
from django.urls import reverse
from django.utils.encoding import force_bytes
from django.utils.http import urlsafe_base64_encode

from ridgeback.accounts.models import Keeper


class Tokens(PasswordResetTokenGenerator):
    """Django's own, with the count of the links made in it."""

    def _make_hash_value(self, user: Keeper, timestamp: int) -> str:
        return f"{super()._make_hash_value(user, timestamp)}{user.links_made}"


tokens = Tokens()


def make(keeper: Keeper) -> str:
    """Make a link, as the path that follows the program's address; every earlier one is dead from now on."""
    Keeper.objects.filter(pk=keeper.pk).update(links_made=F("links_made") + 1)
    keeper.refresh_from_db()
    uid = urlsafe_base64_encode(force_bytes(keeper.pk))
    return reverse("accounts:reset", args=[uid, tokens.make_token(keeper)])
