"""Supplement powders: what a gram of each generic kind holds, and how much of it rides on a meal.

Contents are estimates of usual kinds; what stands on the keeper's own tin replaces them. Of a dusted insect about 15 mg of
powder a gram stays on until it is eaten, if it is eaten at once (Michaels et al. 2014 found most gone within hours; recalled).
1 µg of vitamin D3 is 40 IU.
"""

from dataclasses import dataclass
from typing import Final

DUST_MG_PER_G: Final = 15.0
TINY_DUST_MG_PER_G: Final = 40.0  # on prey below `TINY_G`, which has more skin to a gram (estimate)
TINY_G: Final = 0.02
WORM_DUST_MG_PER_G: Final = 11.0  # on what is wet and smooth (estimate)
SALAD_DUST_MG_PER_G: Final = 4.0  # a pinch over greens (estimate)


@dataclass(frozen=True)
class Powder:
    """Per gram of powder: calcium and phosphorus in mg, vitamins D3 and A in IU, iodine in mg."""

    calcium_mg: float
    phosphorus_mg: float = 0.0
    d3_iu: float = 0.0
    a_iu: float = 0.0
    iodine_mg: float = 0.0


POWDERS: Final = {
    "plain calcium": Powder(400.4),
    "calcium with D3": Powder(380.0, d3_iu=100.0),
    "multivitamin": Powder(60.0, d3_iu=50.0, a_iu=400.0, iodine_mg=0.05),
    "all-in-one": Powder(300.0, d3_iu=40.0, a_iu=80.0, iodine_mg=0.02),
}


def by_label(
    *, calcium_percent: float, phosphorus_percent: float, d3_iu_per_kg: float, a_iu_per_kg: float, iodine_mg_per_kg: float
) -> Powder:
    """Return a powder by what stands on its tin.

    Parameters
    ----------
    calcium_percent, phosphorus_percent
        Of the powder's mass.
    d3_iu_per_kg, a_iu_per_kg
        IU per kg of powder.
    iodine_mg_per_kg
        mg per kg of powder.

    Returns
    -------
    The same per g.

    References
    ----------
    Units alone: 1 % is 10 mg a gram.
    """
    return Powder(calcium_percent * 10, phosphorus_percent * 10, d3_iu_per_kg / 1000, a_iu_per_kg / 1000, iodine_mg_per_kg / 1000)
