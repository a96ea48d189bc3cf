"""Making accounts."""

from django.db import transaction
from django.utils.translation import gettext as _

from ridgeback.accounts.models import Keeper
from ridgeback.rooms.models import Membership, Room


@transaction.atomic
def add(username: str, password: str | None = None, *, administrator: bool = False, room_name: str = "") -> Keeper:
    """Make an account with a room of its own. Without a password it cannot sign in until a reset link was followed."""
    keeper = Keeper(username=username, is_staff=administrator)
    keeper.set_password(password)
    keeper.save()
    longest = Room._meta.get_field("name").max_length or 80
    named = room_name or _("%(name)s's room") % {"name": username[: longest - 20]}
    room = Room.objects.create(name=named[:longest])
    Membership.objects.create(room=room, keeper=keeper, role=Membership.Role.OWNER)
    return keeper
