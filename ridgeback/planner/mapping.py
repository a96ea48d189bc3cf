"""The one mapper between a habitat's rows and a HabitatPlan."""

from typing import Any

from pydantic import ValidationError

from husbandry.errors import HusbandryError
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import Problem, problem_of
from ridgeback.rooms.models import Animal, Habitat, Heater, UvLamp

ENCLOSURE = ("kind", "lid", "mesh_open_share", "length_m", "width_m", "height_m")
ANIMAL = (
    "name", "sex", "hatched", "hatched_is_estimate", "mass_kg", "length_m", "count", "males", "young", "smallest_m", "others",
)  # fmt: skip
HEATER = (
    "kind",
    "watts",
    "x_m",
    "height_m",
    "half_angle_deg",
    "on",
    "off",
    "thermostat",
    "guarded",
    "length_m",
    "holder",
    "fitted",
)
UV_LAMP = (
    "kind", "tube_m", "x_m", "height_m", "reflector", "fitted", "behind_glass", "on", "off", "again_on", "again_off",
)  # fmt: skip
SHELL = ("lid_covered", "insulation_m", "wall_m", "vents")
SETTING = (
    "schools",
    "room",
    "ground",
    "platform",
    "hides",
    "bowl",
    "pool",
    "misting",
    "daylight",
    "year",
    "feeding",
    "upkeep",
    "prices",
    "light_bars",
    "window",
    "outdoors",
    "calibration",
)


def _fields(row: object, names: tuple[str, ...]) -> dict[str, Any]:
    return {name: getattr(row, name) for name in names}


class UnreadablePlanError(HusbandryError, ValueError):
    """What is kept of a habitat is no plan by today's limits; `problems` say what, `habitat_id` whose."""

    def __init__(self, habitat_id: int, problems: list[Problem]) -> None:
        super().__init__(f"habitat {habitat_id}: {', '.join(problem.path for problem in problems)}")
        self.habitat_id, self.problems = habitat_id, problems


def document_of(habitat: Habitat) -> dict[str, Any]:
    """The plan's document as the habitat's rows keep it (four queries, or none when they were prefetched), unchecked."""
    return {
        "name": habitat.name,
        "species": habitat.species,
        "animal": _fields(habitat.animal, ANIMAL),
        "enclosure": _fields(habitat, ENCLOSURE) | habitat.setting.get("shell", {}),
        "heaters": [_fields(row, HEATER) for row in habitat.heaters.all()],
        "uv_lamps": [_fields(row, UV_LAMP) for row in habitat.uv_lamps.all()],
        **{name: habitat.setting[name] for name in SETTING if name in habitat.setting},
    }


def plan_of(habitat: Habitat) -> HabitatPlan:
    """Build the plan from the habitat's rows. Raises UnreadablePlanError."""
    return _read(habitat, document_of(habitat))


def saved_plan(habitat: Habitat) -> HabitatPlan:
    """The plan as its newest revision keeps it, which the rows say too. Raises UnreadablePlanError."""
    return plan_of(habitat) if habitat.head is None else _read(habitat, habitat.head.document)


def _read(habitat: Habitat, document: dict[str, Any]) -> HabitatPlan:
    try:
        return HabitatPlan.model_validate(document)
    except ValidationError as error:
        raise UnreadablePlanError(habitat.pk, [problem_of(item) for item in error.errors(include_url=False)]) from None


def fill(habitat: Habitat, plan: HabitatPlan) -> None:
    """Set the habitat's own columns to what the plan says; saving it is the caller's."""
    habitat.name, habitat.species = plan.name, plan.species
    for name in ENCLOSURE:
        setattr(habitat, name, getattr(plan.enclosure, name))
    document = plan.model_dump(mode="json")
    habitat.setting = {name: document[name] for name in SETTING}
    habitat.setting["shell"] = {name: document["enclosure"][name] for name in SHELL}


def write_parts(habitat: Habitat, plan: HabitatPlan, before: HabitatPlan | None) -> None:
    """Make the rows of animal, heaters and UV lamps say what the plan says, where it differs from `before`.

    The habitat has been saved; call inside a transaction.
    """
    if before is None or plan.animal != before.animal:
        Animal.objects.update_or_create(habitat=habitat, defaults=_fields(plan.animal, ANIMAL))
    if before is None or plan.heaters != before.heaters:
        habitat.heaters.all().delete()
        Heater.objects.bulk_create(
            Heater(
                habitat=habitat, place=place, **(_fields(item, HEATER) | {"thermostat": item.thermostat.model_dump(mode="json")})
            )
            for place, item in enumerate(plan.heaters)
        )
    if before is None or plan.uv_lamps != before.uv_lamps:
        habitat.uv_lamps.all().delete()
        UvLamp.objects.bulk_create(
            UvLamp(habitat=habitat, place=place, **_fields(item, UV_LAMP)) for place, item in enumerate(plan.uv_lamps)
        )
