"""What was measured counts, whatever the model says: the finding, the chance, and no remedy against what was read."""

from typing import Any

import numpy as np
import pytest

from husbandry.assess.assess import NO_DAYS, Records, assess
from husbandry.assess.probability import JointProbability
from husbandry.assess.result import Assessment
from husbandry.assess.vetting import advise
from husbandry.assessment import Band, Basis, BasisKind, Read, Severity
from husbandry.species.book import find
from tests.plans import TODAY, plan

SPOT = "basking_surface/winter/day"
BAND = Band(30.0, 36.0, Basis(BasisKind.PRACTICE))


def look(value: float | None, *, sigma: float = 0.4, **changes: object) -> Assessment:
    made = plan(**changes)
    read = {} if value is None else {SPOT: Read(value, sigma, 4, "2026-11-20")}
    return assess(made, find(made.species), TODAY, records=Records(read=read), depth=NO_DAYS)


def codes(found: Assessment, start: str) -> list[str]:
    return [item.code for item in found.findings if item.code.startswith(start)]


def test_a_measured_place_outside_its_band_is_a_finding_though_the_model_is_content() -> None:
    quiet = look(None).quantity("basking_surface", "winter", "day")
    assert quiet.likely is not None
    assert quiet.likely > 0.8
    found = look(41.0)
    spot = found.quantity("basking_surface", "winter", "day")
    assert spot.value == quiet.value
    assert codes(found, "measured.") == ["measured.high"]
    assert spot.likely is not None
    assert spot.likely < 0.02
    assert found.likely is not None
    assert found.likely < 0.02
    (finding,) = (item for item in found.findings if item.code == "measured.high")
    assert finding.severity is not Severity.QUESTION
    assert codes(look(spot.value), "measured.") == []


def test_what_was_read_speaks_against_the_models_finding_and_its_button() -> None:
    """A weak lamp by the model, and four readings that say too hot: nobody is told to hang it lower."""
    weak: dict[str, Any] = {"heaters__0__watts": 25.0, "heaters__0__thermostat": {"kind": "none"}, "room__winter__day_c": 8.0}
    assert codes(look(None, **weak), "heat.basking") == ["heat.basking_cold"]
    found = look(41.0, **weak)
    assert codes(found, "heat.basking") == []
    assert codes(found, "measured.") == ["measured.high"]
    assert codes(look(33.0, **weak), "heat.basking") == []
    assert codes(look(33.0, **weak), "measured.") == []
    # Where both say cold, it is said once, with the model's way out.
    both = look(15.0, **weak)
    assert codes(both, "heat.basking") == ["heat.basking_cold"]


def test_no_button_mends_a_reading() -> None:
    """A change of the plan on paper changes nothing that was read: the finding keeps its words and no change is tried on it."""
    made = plan()
    found = advise(made, find(made.species), TODAY, records=Records(read={SPOT: Read(41.0, 0.4, 4, "2026-11-20")}))
    (finding,) = (item for item in found.findings if item.code == "measured.high")
    assert finding.remedy is not None
    assert finding.remedy.changes == ()


@pytest.mark.parametrize(("value", "sigma", "share"), [(33.0, 1.0, 0.997), (36.0, 1.0, 0.5), (37.0, 1.0, 0.159)])
def test_the_chance_by_readings_is_the_normals(value: float, sigma: float, share: float) -> None:
    """Against the normal distribution's table: one sigma over an edge leaves 15.9 % (any statistics text)."""
    drawn = np.random.default_rng(7).normal(31.0, 2.0, 4000)
    joint = JointProbability({"spot": Read(value, sigma, 3, "2026-11-20")})
    assert joint.of("spot", BAND, drawn) == pytest.approx(share, abs=0.02)
