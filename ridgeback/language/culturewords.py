"""Words of cultures and gut-loads."""

from typing import Final

from django.utils.translation import gettext_lazy as _

VESSELS: Final = {"bin": _("bin of 60 L"), "cup": _("cup of 1 L"), "tray": _("tray, 30 × 50 cm")}
WARMTH: Final = {
    "good": _("warm enough"),
    "cold": _("colder than it likes: it grows slowly"),
    "hot": _("warmer than it likes"),
    "still": _("too cold or too hot: nothing grows"),
}
# What killed it, and what to do otherwise with the next one.
KILLS: Final = {
    "dried-out": (_("it dried out"), _("A sponge or a slice of carrot more often; cover half of the lid.")),
    "too-wet": (_("it stood wet"), _("More air and less greens; take wet leftovers out the same day.")),
    "mould": (_("mould"), _("Give less at once, take leftovers out, and begin anew in a clean vessel.")),
    "mites": (
        _("mites"),
        _("Begin anew from clean animals in a boiled vessel, on a tray of soapy water; burn or freeze the old one."),
    ),
    "foul-air": (_("foul air, ammonia"), _("Open more of the lid, clear the frass out, keep fewer in one vessel.")),
    "too-hot": (_("heat"), _("Keep it off lamps, sun and mats; read its temperature at noon.")),
    "too-cold": (_("cold"), _("Stand it warmer, on a thermostat.")),
    "starved": (_("hunger or thirst"), _("Look at it every two days; write the day of feeding down.")),
    "poison": (_("sprayed greens, mite spray or fumes"), _("Untreated greens only, washed; nothing is sprayed in that room.")),
    "ants": (_("ants"), _("Stand its feet in water, or draw a ring of grease.")),
    "old": (_("old age: it was never split"), _("Begin the next one before this one is worn.")),
    "unknown": (_("nobody knows"), _("Keep two apart, so that one is left.")),
}
VERDICTS: Final = {
    "low": _("too little calcium: 8 % of dry matter for a day or two make crickets balanced; dust as the menu says"),
    "good": _("calcium enough for a gut-load of a day or two"),
    "harmful": _("so much calcium that insects die of it within days"),
    "unknown": _("the calcium of one part is not known"),
}
CARBONATE: Final = _("calcium carbonate")
