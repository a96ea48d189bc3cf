"""A bucket of requests that fills with time: a few at once are fine, for ever so many somebody waits."""

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class Bucket:
    """How many requests it holds at most, and how many come back in a second."""

    burst: float
    a_second: float

    def take(self, left: float, counted_at: datetime | None, now: datetime, cost: float = 1.0) -> tuple[float, float]:
        """Take `cost` out of what is left since `counted_at`.

        Returns
        -------
        What is left now, and 0; or what is there and the seconds to wait, where it is not enough.
        """
        passed = max((now - counted_at).total_seconds(), 0.0) if counted_at else 0.0
        there = min(left + passed * self.a_second, self.burst)
        return (there - cost, 0.0) if there >= cost else (there, (cost - there) / self.a_second)
