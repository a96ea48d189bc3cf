"""What feeder insects are fed before they are fed: a mix by parts, what it holds, and whether it does for calcium."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

from husbandry.diet.foods import CARBONATE_CALCIUM, foods

CARBONATE: Final = "calcium-carbonate"
CARBONATE_MG_KG: Final = CARBONATE_CALCIUM * 1e6
WANTED_CALCIUM_SHARE: Final = 0.08  # of dry matter: crickets fed so for two days come to about as much calcium as phosphorus
HARMFUL_CALCIUM_SHARE: Final = 0.15  # of dry matter: insects begin to die of it (estimate)
WATERY_SHARE: Final = 0.6  # of water, above which a mix goes bad within a day (common practice, no source)


@dataclass(frozen=True)
class Mixed:
    """What a mix comes to: grams by part for what was asked, calcium and protein as a share of dry matter, Ca:P, water.

    None where a part's figures are not known.
    """

    grams: dict[str, float]
    calcium_share: float | None
    ratio: float | None
    protein_share: float | None
    water_share: float

    @property
    def verdict(self) -> str:
        """Whether it does for calcium: "low", "good", "harmful", or "unknown"."""
        if self.calcium_share is None:
            return "unknown"
        if self.calcium_share > HARMFUL_CALCIUM_SHARE:
            return "harmful"
        return "good" if self.calcium_share >= WANTED_CALCIUM_SHARE else "low"

    @property
    def keeps_badly(self) -> bool:
        return self.water_share > WATERY_SHARE


def mix(parts: Mapping[str, float], total_g: float) -> Mixed:
    """Return what a gut-load of some parts by mass comes to.

    Parameters
    ----------
    parts
        Parts by food, or `CARBONATE`; raises KeyError for an unknown one, ValueError where nothing is above nought.
    total_g
        How much of it is mixed, g.

    Returns
    -------
    Mixed.

    References
    ----------
    Allen and Oftedal 1989, J. Zoo and Wildlife Medicine 20:26: diets of 8 % calcium for 48 h make crickets balanced (recalled).
    """
    known = {key: part for key, part in parts.items() if part > 0}
    whole = sum(known.values())
    if not known or whole <= 0 or total_g <= 0:
        raise ValueError("a mix has parts above nought")
    shares = {key: part / whole for key, part in known.items()}
    table = foods()
    dry = sum(share * (1.0 if key == CARBONATE else table[key].dry_share) for key, share in shares.items())
    calcium = _sum(shares, {key: table[key].calcium_mg for key in shares if key != CARBONATE} | {CARBONATE: CARBONATE_MG_KG})
    phosphorus = _sum(shares, {key: table[key].phosphorus_mg for key in shares if key != CARBONATE} | {CARBONATE: 0.0})
    protein = _sum(shares, {key: table[key].protein_g for key in shares if key != CARBONATE} | {CARBONATE: 0.0})
    return Mixed(
        {key: share * total_g for key, share in shares.items()},
        None if calcium is None else calcium / 1e6 / dry,
        None if calcium is None or not phosphorus else calcium / phosphorus,
        None if protein is None else protein / 1e3 / dry,
        1 - dry,
    )


def _sum(shares: Mapping[str, float], held: Mapping[str, float | None]) -> float | None:
    """What the parts hold together, per kg; None where one of them is not known."""
    found = 0.0
    for key, share in shares.items():
        value = held[key]
        if value is None:
            return None
        found += share * value
    return found
