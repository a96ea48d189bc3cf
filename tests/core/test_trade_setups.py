"""Set-ups that keepers use: none is called too small in silence; where the book asks for more, that is a school.

Common practice, no source: the sizes are those of the trade, by the animal and how many.
"""

from typing import Any

import pytest

from husbandry.assess.assess import NO_DAYS, assess
from husbandry.assess.vetting import applied
from husbandry.assessment import Severity
from husbandry.codes import FindingCode
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.book import find
from tests.plans import TODAY, plan

SETUPS: list[tuple[str, str, dict[str, Any], tuple[float, float, float]]] = [
    ("Mediterranean tortoise of 13 cm", "hermanns-tortoise", {"length_m": 0.13}, (1.5, 0.75, 0.4)),
    ("leopard gecko, baby, 10 gal", "leopard-gecko", {"mass_kg": 0.008, "length_m": 0.065}, (0.5, 0.25, 0.3)),
    ("leopard gecko, grown, 20 gal long", "leopard-gecko", {"mass_kg": 0.06, "length_m": 0.115}, (0.75, 0.3, 0.3)),
    ("leopard gecko, grown, 40 gal", "leopard-gecko", {"mass_kg": 0.06, "length_m": 0.115}, (0.9, 0.45, 0.4)),
    ("White's tree frogs, two", "whites-tree-frog", {"length_m": 0.08, "count": 2}, (0.45, 0.45, 0.6)),
    ("White's tree frogs, three", "whites-tree-frog", {"length_m": 0.08, "count": 3}, (0.6, 0.75, 0.9)),
    ("emerald skink, hatchling", "emerald-tree-skink", {"length_m": 0.04}, (0.3, 0.3, 0.3)),
    ("emerald skinks, four young", "emerald-tree-skink", {"length_m": 0.055, "count": 4}, (0.3, 0.3, 0.45)),
    ("emerald skinks, subadult", "emerald-tree-skink", {"length_m": 0.08, "count": 2}, (0.45, 0.45, 0.45)),
    ("emerald skinks, pair", "emerald-tree-skink", {"length_m": 0.1, "count": 2}, (0.6, 0.45, 0.6)),
    ("emerald skinks, four", "emerald-tree-skink", {"length_m": 0.1, "count": 4}, (0.9, 0.45, 0.9)),
    ("bell frogs, four young", "green-and-golden-bell-frog", {"length_m": 0.045, "count": 4}, (0.6, 0.35, 0.35)),
    ("ridge-tailed monitor", "ridge-tailed-monitor", {"length_m": 0.21}, (1.2, 0.6, 0.6)),
    ("bearded dragon", "central-bearded-dragon", {"length_m": 0.22, "mass_kg": 0.4}, (1.2, 0.6, 0.6)),
    ("veiled chameleon, juvenile", "veiled-chameleon", {"length_m": 0.1}, (0.45, 0.45, 0.9)),
    ("veiled chameleon, female", "veiled-chameleon", {"length_m": 0.17, "sex": "female"}, (0.45, 0.45, 0.9)),
    ("savanna monitor, hatchling, 40 gal", "savanna-monitor", {"length_m": 0.1}, (0.9, 0.45, 0.4)),
    ("savanna monitor, subadult", "savanna-monitor", {"length_m": 0.25}, (1.2, 0.6, 0.6)),
    ("savanna monitor, grown", "savanna-monitor", {"length_m": 0.48}, (2.4, 1.2, 1.2)),
    ("dwarf sand geckos, four", "dwarf-sand-gecko", {"length_m": 0.05, "count": 4}, (0.45, 0.45, 0.45)),
    ("crested gecko, baby", "crested-gecko", {"mass_kg": 0.003, "length_m": 0.04}, (0.2, 0.2, 0.3)),
    ("crested gecko, growing", "crested-gecko", {"mass_kg": 0.012, "length_m": 0.07}, (0.3, 0.3, 0.45)),
    ("crested gecko, grown", "crested-gecko", {"mass_kg": 0.04, "length_m": 0.11}, (0.45, 0.45, 0.6)),
    ("horned lizard", "desert-horned-lizard", {"length_m": 0.08}, (1.0, 1.0, 0.7)),
]
SPACE = (FindingCode.SPACE_TOO_SMALL, FindingCode.SPACE_SMALL_BY_SCHOOL)


def housed(species: str, animal: dict[str, Any], sides: tuple[float, float, float]) -> HabitatPlan:
    box = dict(zip(("length_m", "width_m", "height_m"), sides, strict=True)) | {"kind": "glass", "lid": "mesh"}
    bare: dict[str, Any] = {"heaters": [], "uv_lamps": [], "hides": [], "platform": None, "bowl": None, "ground__depth_m": 0.03}
    return plan(species=species, schools={}, animal=animal, enclosure=box, **bare)


@pytest.mark.sweep
@pytest.mark.parametrize(("species", "animal", "sides"), [item[1:] for item in SETUPS], ids=[item[0] for item in SETUPS])
def test_a_usual_size_is_never_called_wrong_in_silence(
    species: str, animal: dict[str, Any], sides: tuple[float, float, float]
) -> None:
    made, profile = housed(species, animal, sides), find(species)
    said = [item for item in assess(made, profile, TODAY, depth=NO_DAYS).findings if item.code in SPACE]
    assert all(item.severity is Severity.ADVICE and item.code == FindingCode.SPACE_SMALL_BY_SCHOOL for item in said)
    if said:  # keepers disagree: the school is named, and by its button the plan goes by it
        (item,) = said
        assert str(item.parameters["school"]) in {f"space:{name}" for name in ("report", "trade")}
        assert item.remedy is not None
        after = HabitatPlan.model_validate(applied(made, item.remedy.changes))
        assert not [item for item in assess(after, profile, TODAY, depth=NO_DAYS).findings if item.code in SPACE]


def test_what_is_smaller_than_every_school_asks_for_stays_too_small() -> None:
    for species in ("leopard-gecko", "central-bearded-dragon", "emerald-tree-skink", "savanna-monitor"):
        profile = find(species)
        grown = {"length_m": profile.body.adult_length_cm.middle / 100}
        found = assess(housed(species, grown, (0.3, 0.2, 0.25)), profile, TODAY, depth=NO_DAYS)
        (said,) = (item for item in found.findings if item.code in SPACE)
        assert (said.code, said.severity) == (FindingCode.SPACE_TOO_SMALL, Severity.WRONG)
