"""Where is measured, in words."""

from typing import Final

from django.utils.translation import gettext_lazy

UV_BACK: Final = "uv-back"
OWN: Final = "own"
PLACE_NAMES: Final = {
    "basking-surface": gettext_lazy("basking surface"),
    "warm-air": gettext_lazy("air, warm end"),
    "cool-air": gettext_lazy("air, cool end"),
    "warm-ground": gettext_lazy("ground, warm end"),
    "cool-ground": gettext_lazy("ground, cool end"),
    "water": gettext_lazy("water"),
    "warm-humidity": gettext_lazy("humidity, warm end"),
    "cool-humidity": gettext_lazy("humidity, cool end"),
    "humid-hide": gettext_lazy("inside the humid hide"),
    OWN: gettext_lazy("a place of its own"),
    UV_BACK: gettext_lazy("UV index at the back, basking"),
    "room-air": gettext_lazy("the room beside it"),
    "room-humidity": gettext_lazy("the room's humidity"),
    "power": gettext_lazy("power of a heater"),
    "misted": gettext_lazy("water that the mister gave"),
    "weight": gettext_lazy("weight on the scale"),
}
