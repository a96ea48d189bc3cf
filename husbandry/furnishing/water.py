"""Water that is lived in: changes, nitrogen, ammonia by pH, the filter, the mister's reservoir.

Nitrogen is booked from the protein of the food: what is not built into the animal goes into the water. In a filter it becomes
nitrate; where there is none it stays ammonia. What leaves, leaves with the water that is changed.
"""

from typing import Final

PROTEIN_NITROGEN: Final = 0.16  # of protein (Jones factor 6.25)
EXCRETED: Final = 0.7  # of the nitrogen eaten that goes into the water (estimate, 0.6 to 0.8)
NITRATE_OF_NITROGEN: Final = 62.004 / 14.007
AMMONIA_OF_NITROGEN: Final = 17.031 / 14.007
CONDITIONER_ML_L: Final = 0.05  # a usual dose (trade); the bottle's own word comes first
CYCLING_WEEKS: Final = (4.0, 8.0)  # until a filter turns ammonia into nitrate (trade)
TURNOVER_H: Final = (2.0, 6.0)  # of the water in an hour, for what lives in still to slow water (common practice, no source)


def nitrogen_mg_a_day(protein_g_a_day: float, excreted: float = EXCRETED) -> float:
    """Return the nitrogen that a day's food brings into the water.

    Parameters
    ----------
    protein_g_a_day
        Protein eaten a day, g.
    excreted
        The share of its nitrogen that goes into the water.

    Returns
    -------
    mg of nitrogen a day.

    References
    ----------
    Nitrogen is 16 % of protein; the share excreted is an estimate (husbandry of aquatic animals, from memory).
    """
    return 1000 * PROTEIN_NITROGEN * excreted * protein_g_a_day


def before_change(mg_a_day: float, litres: float, share: float, interval_days: float) -> float:
    """Return what stands in the water just before each change once it has settled: it builds up until a change takes as much away.

    Parameters
    ----------
    mg_a_day
        What comes in a day, mg.
    litres
        The water, L.
    share
        Of the water that is changed, over 0 to 1.
    interval_days
        Days between changes.

    Returns
    -------
    mg/L. Just after a change it is (1 − share) of that.

    Raises
    ------
    ValueError
        No water, or nothing is changed.

    References
    ----------
    Mass balance in closed form: C = A·D/(V·f).
    """
    if litres <= 0 or not 0 < share <= 1:
        raise ValueError("water and a share that is changed are needed")
    return mg_a_day * interval_days / (litres * share)


def turnover_h(litres_an_hour: float, litres: float) -> float:
    """Return how often an hour a filter moves all the water.

    Parameters
    ----------
    litres_an_hour, litres
        What the filter moves, and the water, L.

    Returns
    -------
    1/h.

    Raises
    ------
    ValueError
        No water.

    References
    ----------
    Arithmetic; no source outside.
    """
    if litres <= 0:
        raise ValueError("there is no water")
    return litres_an_hour / litres


def unionised_share(water_c: float, ph: float) -> float:
    """Return the share of all ammonia that is un-ionised, which is what poisons.

    Parameters
    ----------
    water_c
        °C, 0 to 35.
    ph
        6 to 10.

    Returns
    -------
    Share without unit, 0–1.

    References
    ----------
    K. Emerson, R. C. Russo, R. E. Lund and R. V. Thurston, "Aqueous ammonia equilibrium calculations: effect of pH and
    temperature", 1975 (recalled).
    """
    return 1 / (1 + 10 ** (0.09018 + 2729.92 / (water_c + 273.15) - ph))


def reservoir_days(reservoir_l: float, grams_a_day: float) -> float:
    """Return how many days a mister's reservoir lasts; a gram of water is a millilitre.

    Parameters
    ----------
    reservoir_l
        L.
    grams_a_day
        What is misted a day, g.

    Returns
    -------
    Days; infinite where nothing is misted.

    References
    ----------
    Arithmetic; no source outside.
    """
    return float("inf") if grams_a_day <= 0 else 1000 * reservoir_l / grams_a_day


def misting_seconds(grams: float, nozzles: int, grams_a_minute: float) -> float:
    """Return how long a misting of so many grams takes.

    Parameters
    ----------
    grams
        Of one misting.
    nozzles
        How many spray.
    grams_a_minute
        What one nozzle gives.

    Returns
    -------
    s.

    Raises
    ------
    ValueError
        No nozzle, or one that gives nothing.

    References
    ----------
    Arithmetic; no source outside.
    """
    if nozzles < 1 or grams_a_minute <= 0:
        raise ValueError("a nozzle that gives water is needed")
    return 60 * grams / (nozzles * grams_a_minute)
