"""A clock time on a day as a moment, through changes of the clocks.

Jobs are due by the clock on the wall. In the hour that is left out in spring the moment is that much later (02:30 becomes
03:30); in the hour that comes twice in autumn it is the first of both.
"""

from datetime import UTC, date, datetime, time, tzinfo


def moment(day: date, at: time, zone: tzinfo) -> datetime:
    """Return the aware moment of a clock time on a day, in `zone`.

    Parameters
    ----------
    day
        The date.
    at
        The time on the wall.
    zone
        The time zone.

    Returns
    -------
    An aware datetime.

    References
    ----------
    PEP 495, for hours that come twice or not at all.
    """
    wanted = datetime.combine(day, at, zone).replace(fold=0)
    return wanted.astimezone(UTC).astimezone(zone)
