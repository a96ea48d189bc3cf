"""How much an animal eats a day over its own body mass: where it starves, and where it drowns in food.

Energy tells it better where an equation serves the animal; this holds for all, amphibians too. What grazes is judged by its dry
matter, for fresh grass and hay differ fourfold. All spans are common practice, no source, and wide.
"""

from typing import Final

from husbandry.assessment import Band, Basis, BasisKind

PRACTICE: Final = Basis(BasisKind.PRACTICE)
# By diet, % of body mass a day: of those that grow, and of grown ones.
SPANS: Final[dict[str, tuple[tuple[float, float], tuple[float, float]]]] = {
    "plants": ((0.5, 2.4), (0.5, 2.0)),
    "whole prey": ((0.35, 5.0), (0.15, 2.0)),
    "insects": ((0.6, 12.0), (0.2, 5.0)),
    "omnivore": ((1.0, 16.0), (0.2, 9.0)),
    "water prey": ((0.8, 8.0), (0.3, 4.0)),
    "powder and insects": ((1.0, 8.0), (0.8, 6.0)),
    "eggs": ((1.0, 4.0), (0.4, 2.5)),
}


def is_dry(diet: str) -> bool:
    """Tell whether a diet is judged by its dry matter."""
    return diet == "plants"


def span(diet: str, *, grown: bool) -> Band | None:
    """Return what an animal of this diet eats a day.

    Parameters
    ----------
    diet
        As the book names it.
    grown
        Whether it is in its last stage.

    Returns
    -------
    % of body mass; None for a diet that is not known.

    References
    ----------
    Common practice, no source.
    """
    if diet not in SPANS:
        return None
    low, high = SPANS[diet][grown]
    return Band(low, high, PRACTICE)
