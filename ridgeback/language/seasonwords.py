"""Words of "sick, or season?"."""

from typing import Final

from django.utils.translation import gettext_lazy as _

SIDES: Final = {
    "season": (_("a season of its own"), _("Weigh it every two weeks, offer water, and let it be.")),
    "keeping": (_("something wrong with how it is kept"), _("Mend what its habitat's page says first, and look again in a week.")),
    "ill": (_("an illness"), _("Weigh it, keep a sample of its droppings, and ask a reptile veterinarian.")),
}
EVIDENCE: Final = {
    "weight_lost": _("It has lost a tenth of its weight or more."),
    "weight_steady": _("It keeps its weight."),
    "in_season": _("Its kind rests or fasts in these weeks."),
    "out_of_season": _("Its kind neither rests nor fasts in these weeks."),
    "night_cooled": _("The nights are as cool as a rest asks for."),
    "night_warm": _("The nights stay warm though its kind rests now."),
    "hatchling": _("It is a hatchling: those hide much."),
    "gravid": _("She carries eggs or young."),
    "about_to_shed": _("It is about to shed."),
    "new": _("It came within the last weeks."),
    "keeping_wrong": _("Warmth, light or moisture of its habitat are not as it needs them."),
    "keeping_right": _("Warmth, light and moisture of its habitat are as it needs them."),
    "fasts_long": _("It has not eaten for longer than is normal for it now."),
    "sign": _("A health sign was written down within two weeks."),
    "parasites": _("Something was found in its last sample."),
}
UNKNOWN: Final = {
    "lost_share": _("its weight against its own line: weigh it now, and again in two weeks"),
    "night_cooled": _("how cool its nights are: read the cool end before the light comes on"),
    "parasites": _("a sample of its droppings: none was looked at lately"),
}
