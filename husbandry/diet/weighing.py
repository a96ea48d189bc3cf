"""Weighing what will not lie still: by tare, by difference, with the scale's own error taken off."""

from husbandry.errors import HusbandryError


class WeighingError(HusbandryError, ValueError):
    """What was weighed cannot be: `code` is "lighter_than_box", "same_or_heavier" or "nothing"."""

    def __init__(self, code: str) -> None:
        super().__init__(code)
        self.code = code


def by_tare(with_box_g: float, box_g: float) -> float:
    """Return the animal's mass in g from the box with it and the box alone; the scale's error falls out.

    Raises WeighingError when nothing is left.

    Parameters
    ----------
    with_box_g, box_g
        g.

    Returns
    -------
    g.

    References
    ----------
    Weighing by difference; common practice.
    """
    if with_box_g <= 0 or box_g < 0:
        raise WeighingError("nothing")
    if with_box_g <= box_g:
        raise WeighingError("lighter_than_box")
    return with_box_g - box_g


# How far two weights may lie apart before they are asked about: at once, and how much more with each week between them.
# Common practice, no source: a hatchling may double in a month, a good meal is a third of a snake, a long fast a quarter of it.
MOST_GAIN, MOST_LOSS = 1.6, 0.7
GAIN_A_WEEK, LOSS_A_WEEK = 1.07, 0.985
WEEKS_COUNTED = 104


def doubtful(before: float, now: float, days: float) -> bool:
    """Tell whether a weight is so far off the one `days` before that a slip of unit or finger is likelier; both in one unit.

    Parameters
    ----------
    before, now
        Both in one unit of mass.
    days
        Between them.

    Returns
    -------
    True where it is to be asked about.

    References
    ----------
    Common practice, no source.
    """
    weeks = min(max(days, 0.0) / 7, WEEKS_COUNTED)
    return not MOST_LOSS * LOSS_A_WEEK**weeks <= now / before <= MOST_GAIN * GAIN_A_WEEK**weeks


def eaten(before_g: float, after_g: float, dried_g: float = 0.0) -> float:
    """Return the mass eaten in g by difference: a bowl before and after, less what a bowl alike lost by drying.

    Raises WeighingError when more is left than was given.

    Parameters
    ----------
    before_g, after_g, dried_g
        g.

    Returns
    -------
    g.

    References
    ----------
    Weighing by difference; common practice.
    """
    if before_g <= 0 or after_g < 0 or dried_g < 0:
        raise WeighingError("nothing")
    if after_g + dried_g > before_g:
        raise WeighingError("same_or_heavier")
    return before_g - after_g - dried_g
