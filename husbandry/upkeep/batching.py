"""Sharing days: what may be moved goes on the animal-room days the keeper chooses, and gaps stay what they should be.

Each turn of a rule goes to the room day nearest to it (the earlier of two as near), within the slack the rule allows; a turn with
no room day within its slack stays where it is and is told. Two turns on one day become one, which is told too. Because every
turn is placed by its own date, nothing drifts and nothing is lost.
"""

from collections.abc import Sequence
from datetime import date, timedelta
from typing import NamedTuple

from husbandry.upkeep.recur import shifts


class Placed(NamedTuple):
    """A turn on its day. `due` is where its rule put it; `merged` counts further turns that fell on the same day."""

    day: date
    due: date
    merged: int = 0


def slack_of(interval_days: int) -> int:
    """Return how many days a turn may move either way: none below three days, then a quarter of the interval.

    (Common practice, no source: every third day may be two or four apart once in a while, weekly may be five to nine.)
    """
    return 0 if interval_days < 3 else max(1, interval_days // 4)


def share(due: Sequence[date], weekdays: tuple[int, ...], slack_days: int) -> list[Placed]:
    """Place turns, in order, on the room's weekdays. No weekdays, or no slack, leaves every turn where it is.

    Parameters
    ----------
    due
        Days on which turns are due, in order.
    weekdays
        The room's, 0 is Monday.
    slack_days
        How far a turn may move either way.

    Returns
    -------
    Placed, in order.

    References
    ----------
    Common practice, no source.
    """
    if not due:
        return []
    if not weekdays or slack_days < 1:
        return [Placed(day, day) for day in due]
    by_weekday = [None if days is None else timedelta(days=days) for days in shifts(weekdays, slack_days)]
    found: list[Placed] = []
    for turn in due:
        shift = by_weekday[turn.weekday()]
        day = turn if not shift else turn + shift
        if found and day <= found[-1].day:
            last = found[-1]
            found[-1] = Placed(last.day, last.due, last.merged + 1)
        else:
            found.append(Placed(day, turn))
    return found
