"""Words of the pantry."""

from typing import Final

from django.utils.translation import gettext_lazy as _

KINDS: Final = {
    "frozen": _("freezer"),
    "live": _("live food"),
    "greens": _("greens"),
    "powder": _("powders"),
    "other": _("other"),
}
STATES: Final = {
    "out": _("gone"),
    "soon": _("order"),
    "stale": _("goes stale first"),
    "fine": _("enough"),
    "unused": _("not on the rota"),
}
UNITS: Final = {"piece": _("pieces"), "g": "g"}
SAID: Final = {
    "nothing": _("Nothing came in: the amount must be above zero."),
    "negative": _("The amount in store cannot be negative."),
    "too_much": _("That is more than a pantry can hold. Check the number and its unit."),
}
