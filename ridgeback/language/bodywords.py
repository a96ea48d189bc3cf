"""Words for body condition, by what is looked at and by score."""

from typing import Final

from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from husbandry.assessment import Measure
from husbandry.feeding.appetite import RestLoss
from ridgeback.language import dates
from ridgeback.units import KeeperUnits, written

LOOK: Final = {
    "tail": _("Look at the tail from above: it holds the fat."),
    "hips": _("Look at the hips and the root of the tail from above."),
    "spine": _("Feel the back across: is the spine a ridge or a groove?"),
    "shell": _("Look from in front: the skin between shell, head and legs."),
    "flanks": _("Look from above: the flanks behind the shoulders."),
}
NAMES: Final = {1: _("wasted"), 2: _("thin"), 3: _("right"), 4: _("fat"), 5: _("obese")}
SEEN: Final = {
    "tail": {
        1: _("A string; hips and ribs show."),
        2: _("Thinner than the neck; hips show."),
        3: _("As thick as the neck, or a little thicker."),
        4: _("Much thicker than the neck."),
        5: _("A ball; pads behind the arms."),
    },
    "hips": {
        1: _("Bones stand out; the tail's root is sunken."),
        2: _("Bones are seen; the tail's root is flat."),
        3: _("Bones are felt, not seen; the root is round."),
        4: _("Bones are hard to feel; folds at the root."),
        5: _("No waist; the root bulges."),
    },
    "spine": {
        1: _("A sharp ridge; the flanks fall in."),
        2: _("A roof; the spine is seen."),
        3: _("A loaf; the spine is felt."),
        4: _("A drum; the spine is hard to feel."),
        5: _("A groove along the spine; skin shows between scales."),
    },
    "shell": {
        1: _("Deep hollows; the head looks large."),
        2: _("Hollows; it feels light for its size."),
        3: _("Level with the legs; draws in wholly."),
        4: _("Bulges when it draws in."),
        5: _("Cannot draw in; bulges stay out."),
    },
    "flanks": {
        1: _("Sunken; spine and hips show."),
        2: _("Narrower than the head; hips show."),
        3: _("As wide as the head or a little wider."),
        4: _("Much wider than the head."),
        5: _("Round all over; folds at the arms."),
    },
}
MOVES: Final = {
    "ration": _("One step on the ration: %(now)s instead of %(before)s; the days stay."),
    "interval": _("One step on the days: every %(now)s days instead of every %(before)s; the meal stays."),
    "": _("Neither the ration nor the days change."),
}


def rest_loss(found: RestLoss, units: KeeperUnits) -> str:
    """What a winter rest has cost, and where it is broken off."""
    said = {
        "before": units.say(Measure(found.before_kg, "kg")),
        "last": units.say(Measure(found.last_kg, "kg")),
        "since": dates.shown(found.before, "j M"),
        "day": dates.shown(found.last, "j M"),
        "lost": units.say(Measure(found.lost_percent, "%")),
        "limit": f"{written(found.limit_percent)} %",
    }
    told = gettext("At rest: %(before)s on %(since)s, %(last)s on %(day)s, %(lost)s less.") % said
    if found.month_percent is not None and found.month_limit is not None:
        told += " " + gettext("That is %(rate)s a month; about %(most)s is the most.") % {
            "rate": f"{written(found.month_percent, '.1f')} %",
            "most": f"{written(found.month_limit)} %",
        }
    if found.over:
        end = gettext("That is past %(limit)s: break the rest off, and a reptile veterinarian.") % said
    else:
        end = gettext("At %(limit)s the rest is broken off.") % said
    return f"{told} {end}"
