"""Rules of plants: light, warmth and ground they grow by; never a poisonous one where it is eaten; sturdy under a heavy animal."""

from collections.abc import Iterator

from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy, Severity
from husbandry.codes import FindingCode, RemedyCode
from husbandry.review.arrangement import PlantFacts
from husbandry.review.facts import Facts


def planted(facts: Facts) -> Iterator[Finding]:
    """Each plant against its place."""
    for plant in facts.furnishings.plants:
        told: dict[str, Parameter] = {"plant": plant.plant}
        if plant.eaten:
            yield Finding(
                FindingCode.PLANT_POISONOUS, Severity.DANGER, "furniture", told, _instead(plant, taken_out=True), plant.path
            )
        if plant.crushed:
            yield Finding(FindingCode.PLANT_FRAIL, Severity.ADVICE, "furniture", told, _instead(plant), plant.path)
        light = told | {"lux": plant.lux, "low": plant.lux_least, "high": plant.lux_most}
        if plant.lux < plant.lux_least:
            yield Finding(FindingCode.PLANT_DARK, Severity.ADVICE, "furniture", light, _instead(plant), plant.path)
        elif plant.lux > plant.lux_most:
            yield Finding(FindingCode.PLANT_SCORCHED, Severity.ADVICE, "furniture", light, _instead(plant), plant.path)
        if plant.grows_m > plant.room_m:
            size = told | {"value": Measure(plant.grows_m, "m"), "high": Measure(plant.room_m, "m")}
            yield Finding(
                FindingCode.PLANT_OUTGROWS, Severity.ADVICE, "furniture", size, Remedy(RemedyCode.PLANT_CUT_BACK), plant.path
            )
        if plant.air_c > plant.bears_c:
            warm = told | {"value": Measure(plant.air_c, "degC"), "high": Measure(plant.bears_c, "degC")}
            yield Finding(FindingCode.PLANT_HOT, Severity.ADVICE, "furniture", warm, None, plant.path)
        if plant.damp == "dry" and plant.wants != "dry":
            yield Finding(FindingCode.PLANT_DRY, Severity.ADVICE, "furniture", told, _potted(plant), plant.path)
        elif plant.damp in ("even", "wet") and plant.wants == "dry":
            yield Finding(FindingCode.PLANT_ROTS, Severity.ADVICE, "furniture", told, _potted(plant), plant.path)


def _instead(plant: PlantFacts, *, taken_out: bool = False) -> Remedy | None:
    """Another plant that suits the place; where there is none, out with one that poisons."""
    if plant.instead:
        change = Change(f"{plant.path}.plant", plant.instead)
        return Remedy(RemedyCode.PLANT_INSTEAD, {"plant": plant.instead}, (change,))
    return Remedy(RemedyCode.PLANT_OUT, {"plant": plant.plant}, (Change(plant.path, None),)) if taken_out else None


def _potted(plant: PlantFacts) -> Remedy:
    """In its pot it is watered by itself."""
    return Remedy(RemedyCode.PLANT_IN_POT, {"plant": plant.plant}, (Change(f"{plant.path}.potted", True),))
