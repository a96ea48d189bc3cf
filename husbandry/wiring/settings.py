"""What a keeper says of a room's electricity: its voltage, circuits, strips, and what is plugged in where."""

from typing import Annotated, Any, Final, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from husbandry.plan.equipment import Part

MOST_STRIP_A: Final = 20.0  # no household strip carries more, whatever the country
MOST_BREAKER_A: Final = 63.0
Name = Annotated[str, Field(min_length=1, max_length=30)]


class Circuit(Part):
    """A circuit: its breaker, A; its residual-current device, mA (None for none or unknown); what else hangs on it, W."""

    name: Name
    breaker_a: Annotated[float, Field(ge=1)] = 16.0
    residual_ma: Annotated[float, Field(ge=4, le=500)] | None = None
    other_w: Annotated[float, Field(ge=0, le=20_000)] = 0.0

    @model_validator(mode="after")
    def _of_a_house(self) -> Self:
        if self.breaker_a > MOST_BREAKER_A:
            raise PydanticCustomError("breaker_too_large", "no such breaker", {"most_a": MOST_BREAKER_A, "name": self.name})
        return self


class Strip(Part):
    """A strip of sockets on a circuit: what its plate says it carries, A; its sockets; its height above the room's floor, m."""

    name: Name
    circuit: Name
    rated_a: Annotated[float, Field(ge=1)] = 10.0
    sockets: Annotated[int, Field(ge=1, le=30)] = 6
    up_m: Annotated[float, Field(ge=0, le=4)] = 1.0

    @model_validator(mode="after")
    def _of_a_household(self) -> Self:
        if self.rated_a > MOST_STRIP_A:
            raise PydanticCustomError("strip_too_large", "no such strip", {"most_a": MOST_STRIP_A, "name": self.name})
        return self


class Plug(Part):
    """Where one consumer is plugged in; `timer`: through a timer; `carries_w`: what its thermostat's plate says it carries, W."""

    strip: Name
    timer: bool = False
    carries_w: Annotated[float, Field(gt=0, le=5000)] | None = None


class HabitatFeed(Part):
    """How one habitat is fed: how high its floor is above the room's, how far from its socket wall the strip is, m; its plugs."""

    floor_m: Annotated[float, Field(ge=0, le=3)] = 0.7
    away_m: Annotated[float, Field(ge=0, le=10)] = 0.3
    plugs: Annotated[dict[Annotated[str, Field(max_length=30)], Plug], Field(max_length=60)] = Field(default_factory=dict)


class Wiring(Part):
    """The electricity of a room; `feeds` by the habitats' own keys."""

    volts: float = 230.0
    circuits: Annotated[tuple[Circuit, ...], Field(max_length=12)] = ()
    strips: Annotated[tuple[Strip, ...], Field(max_length=40)] = ()
    feeds: Annotated[dict[Annotated[str, Field(max_length=20)], HabitatFeed], Field(max_length=200)] = Field(default_factory=dict)

    @model_validator(mode="after")
    def _hangs_together(self) -> Self:
        if not (100 <= self.volts <= 127 or 200 <= self.volts <= 250):
            raise PydanticCustomError("odd_voltage", "no mains has this voltage", {"volts": self.volts})
        for rows in (self.circuits, self.strips):
            names = [one.name for one in rows]
            twice = next((name for name in names if names.count(name) > 1), None)
            if twice is not None:
                raise PydanticCustomError("name_twice", "two have one name", {"name": twice})
        circuits, strips = {one.name for one in self.circuits}, {one.name for one in self.strips}
        for strip in self.strips:
            if strip.circuit not in circuits:
                raise PydanticCustomError("unknown_circuit", "there is no such circuit", {"name": strip.circuit})
        for feed in self.feeds.values():
            for plug in feed.plugs.values():
                if plug.strip not in strips:
                    raise PydanticCustomError("unknown_strip", "there is no such strip", {"name": plug.strip})
        return self

    def strip(self, name: str) -> Strip:
        """A strip by its name. Raises StopIteration."""
        return next(one for one in self.strips if one.name == name)

    def fed(self, habitat: Any) -> HabitatFeed:
        """How a habitat is fed; the usual where nobody said."""
        return self.feeds.get(str(habitat), HabitatFeed())
