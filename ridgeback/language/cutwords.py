"""Words of a cut list."""

from typing import Any, Final

from django.utils.translation import gettext_lazy as _

from ridgeback.language.names import CHOICES

PIECES: Final[dict[str, Any]] = {
    "floor": _("floor"),
    "lid": _("lid"),
    "end": _("end"),
    "back": _("back, over the edges of floor, lid and ends"),
    "front": _("front"),
    "sill": _("sill under the doors"),
    "rail": _("rail over the doors"),
    "pane": _("sliding pane"),
    "lid-mesh": _("mesh for the lid"),
    "vent-mesh": _("mesh for a vent"),
    "board-back": _("foam board, back"),
    "board-end": _("foam board, end"),
    "board-floor": _("foam board, floor"),
    "barrier": _("moisture barrier, up the walls"),
}


def piece(what: str) -> str:
    """What a piece is called."""
    return str(PIECES.get(what) or CHOICES["thing"].get(what, what))
