"""How wide a body is, by its form."""

from typing import Final

from husbandry.animal.subject import Subject

COIL_SHARE: Final = 0.2  # a coiled snake's width over its total length (estimate)
# The width over which a body wants warmth, over its length: a coil and a shell taper to both ends (estimates).
WIDTHS: Final = {"snake": 0.5, "tortoise": 0.5, "turtle": 0.5, "frog": 0.4}
SLENDER: Final = 0.15
SNAKE_WIDTH: Final = 0.03  # of a snake's length (estimate)


def body_width_m(subject: Subject) -> float | None:
    """How wide the animal is, m; None where its length is not known."""
    length_m, form = subject.body.length_m, subject.profile.body.form
    if length_m is None:
        return None
    return length_m * (SNAKE_WIDTH if form == "snake" else WIDTHS.get(form, SLENDER))
