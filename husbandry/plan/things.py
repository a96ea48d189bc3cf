"""What stands in the enclosure: one list of things, each of a kind of the catalogue, at a place of its own."""

from typing import Annotated, Final, Self

from pydantic import AfterValidator, Field, model_validator
from pydantic_core import PydanticCustomError

from husbandry.furnishing.plants import plants
from husbandry.furnishing.things import Base, Perch, Role, Stuff, ThingKind, kinds
from husbandry.plan.equipment import Part, Position, Text

MOST_THINGS: Final = 60


def _known(key: str) -> str:
    if key not in kinds():
        raise PydanticCustomError("unknown_thing", "no such kind of thing", {"known": ", ".join(kinds())})
    return key


def _grown(key: str) -> str:
    if key and key not in plants():
        raise PydanticCustomError("unknown_plant", "no such plant", {"known": ", ".join(plants())})
    return key


KindKey = Annotated[str, Field(max_length=40), AfterValidator(_known)]
Size = Annotated[float, Field(gt=0, le=15)]


class Thing(Part):
    """One thing; `x_m` and `y_m` are its middle on the floor plan, `y_m` from the front.

    `length_m` lies along the enclosure until it is turned (`turn_deg`, against the clock seen from above), `width_m` is its depth
    from front to back, `height_m` how tall it is. `up_m` is its foot above the ground's surface, or above the enclosure's own floor
    where it stands on that, is on a wall or hangs. What lies between two ends rises to the right by `slope_deg` and is `height_m`
    thick. `water_m` is how deep water stands in it, `entrance_m` how wide its opening is; `basking` names it a basking place;
    `footing` tells that it stands on footings that reach the enclosure's own floor. A
    heated hide has a heater of `heated_w` on a thermostat that holds it at `heated_to_c`, and `insulation_m` of foam board in its
    walls. `plant` is the kind of a living plant, `potted` tells that it stands in its pot.
    """

    kind: KindKey
    name: Text = ""
    x_m: Position
    y_m: Position | None = None
    base: Base | None = None
    up_m: Annotated[float, Field(ge=0, le=15)] = 0.0
    length_m: Size
    width_m: Size | None = None
    height_m: Annotated[float, Field(ge=0, le=15)]
    turn_deg: Annotated[float, Field(ge=-360, le=360)] = 0.0
    slope_deg: Annotated[float, Field(ge=-90, le=90)] = 0.0
    material: Stuff | None = None
    basking: bool = False
    footing: bool = False
    dark: bool | None = None
    entrance_m: Annotated[float, Field(gt=0, le=5)] | None = None
    water_m: Annotated[float, Field(gt=0, le=0.5)] | None = None
    heated_w: Annotated[float, Field(gt=0, le=300)] | None = None
    heated_to_c: Annotated[float, Field(ge=5, le=40)] | None = None
    insulation_m: Annotated[float, Field(ge=0, le=0.2)] = 0.0
    plant: Annotated[str, Field(max_length=40), AfterValidator(_grown)] = ""
    potted: bool = False

    @model_validator(mode="after")
    def _as_its_kind_can(self) -> Self:
        if self.heated_w is not None and self.heated_to_c is None:
            raise ValueError("a heated hide needs its thermostat's set point")
        if self.base is not None and self.base not in self.of.bases:
            raise PydanticCustomError("wrong_base", "it cannot stand there", {"base": self.base, "kind": self.kind})
        if self.basking and self.of.perch is None:
            raise PydanticCustomError("no_perch", "no animal basks on it", {"kind": self.kind})
        return self

    @property
    def of(self) -> ThingKind:
        """Its kind, as the catalogue has it."""
        return kinds()[self.kind]

    def good_for(self, role: Role) -> bool:
        """Tell whether it is good for something."""
        return role in self.of.roles

    @property
    def stands(self) -> Base:
        """What it stands on, where the plan does not say its kind's usual."""
        return self.base or self.of.bases[0]

    @property
    def made_of(self) -> Stuff:
        """Its material, where the plan does not say its kind's usual."""
        return self.material or self.of.materials[0]

    @property
    def humid(self) -> bool:
        """Tell whether it is kept damp inside."""
        return self.good_for("humid")

    @property
    def perch(self) -> Perch | None:
        """What it is to the climate model where an animal basks on it."""
        return self.of.perch

    @property
    def diameter_m(self) -> float:
        """How wide something round is."""
        return self.length_m

    @property
    def top_m(self) -> float:
        """Its top above its base, m."""
        return self.up_m + self.height_m

    @property
    def lets_under(self) -> bool:
        """Tell whether the ground under it stays free: what lies between two ends, is on a wall or hangs; a background stands."""
        return self.of.along or (self.stands in ("wall", "hanging") and self.of.shape != "panel")
