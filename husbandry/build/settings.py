"""What a keeper says of a build that the plan does not: used parts, how it is finished, waits of their own, the time there is."""

import re
from datetime import time
from typing import Annotated, Final, Literal, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from husbandry.build.kinds import ANIMAL_IN, steps, waits
from husbandry.plan.equipment import Clock, Day, Part

MOST_OWN: Final = 20
EVERY_DAY: Final = (0, 1, 2, 3, 4, 5, 6)
Weekday = Annotated[int, Field(ge=0, le=6)]


class OwnStep(Part):
    """A step of the keeper's own: what it comes after and before, by kinds of steps or by other own ones' names."""

    name: Annotated[str, Field(min_length=1, max_length=60)]
    minutes: Annotated[float, Field(ge=0, le=1440)] = 30.0
    wait_h: Annotated[float, Field(ge=0, le=2000)] = 0.0
    after: Annotated[tuple[Annotated[str, Field(max_length=60)], ...], Field(max_length=10)] = ()
    before: Annotated[tuple[Annotated[str, Field(max_length=60)], ...], Field(max_length=10)] = ()


class BuildSettings(Part):
    """How an enclosure is built.

    `second_hand` parts are stripped, looked over and disinfected twice. `finish` of a carved background is "plaster" in `coats`
    and paint, or "coir" in silicone; "" goes by how damp the animal lives. `mite_spray`: used before anything living is in.
    `waits` are hours by the key of a wait, where they are not the usual. Work is done on `weekdays` (0 is Monday) from `from_clock`
    on for `minutes_a_day`. The animal is in quarantine until `quarantine_until`, where it is.
    """

    second_hand: bool = False
    mite_spray: bool = False
    finish: Literal["", "plaster", "coir"] = ""
    coats: Annotated[int, Field(ge=2, le=6)] = 3
    waits: Annotated[dict[str, Annotated[float, Field(ge=0, le=5000)]], Field(max_length=40)] = Field(default_factory=dict)
    weekdays: Annotated[tuple[Weekday, ...], Field(min_length=1, max_length=7)] = EVERY_DAY
    from_clock: Clock = time(18)
    minutes_a_day: Annotated[float, Field(ge=10, le=960)] = 120.0
    quarantine_until: Day | None = None
    own: Annotated[tuple[OwnStep, ...], Field(max_length=MOST_OWN)] = ()

    @model_validator(mode="after")
    def _as_it_can_be(self) -> Self:
        for key, hours in self.waits.items():
            kind = waits().get(key)
            if kind is None:
                raise PydanticCustomError("unknown_wait", "there is no such wait", {"wait": key})
            if hours < kind.least_h:
                raise PydanticCustomError("wait_too_short", "it takes longer", {"wait": key, "least_h": kind.least_h})
        names = [one.name for one in self.own]
        # A kind's steps are called by it, and by a number where there are several.
        if len(set(names)) < len(names) or any(re.sub(r"-\d+$", "", name) in steps() for name in names):
            raise PydanticCustomError("own_step_twice", "two steps have one name")
        known = {*names, *steps()}
        for one in self.own:
            for other in (*one.after, *one.before):
                if other not in known:
                    raise PydanticCustomError("unknown_step", "there is no such step", {"step": other})
            if ANIMAL_IN in one.after:
                raise PydanticCustomError("after_the_end", "nothing of a build comes after the animal", {"step": one.name})
        return self

    def hours_of(self, key: str) -> float:
        """How long a wait lasts, in h."""
        return self.waits.get(key, waits()[key].hours)
