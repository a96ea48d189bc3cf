"""How large an animal grows, as a picture: to scale with its measure, within the picture, whatever the kind."""

import re

import pytest

from husbandry.species.book import shipped
from ridgeback.book.catalogue import total_cm
from ridgeback.drawing import likeness


@pytest.mark.parametrize("species", sorted(shipped()))
def test_animal_and_measure_are_to_one_scale(species: str) -> None:
    profile = shipped()[species]
    total_m = total_cm(profile) / 100
    picture = likeness.draw(profile.body.form, total_m)
    points = [(float(x), float(y)) for x, y in re.findall(r"(-?[\d.]+),(-?[\d.]+)", picture["outline"])]
    measure_px = float(picture["to"]) - float(picture["from"])
    length_px = max(x for x, _y in points) - min(x for x, _y in points)
    if profile.body.form != "snake":  # coiled as it is drawn
        assert length_px / measure_px == pytest.approx(total_m / picture["measure_m"], rel=0.15)
    left, top, width, height = map(float, picture["view"].split())
    assert all(left <= x <= left + width and top <= y <= top + height for x, y in points)
    assert max(x for x, _y in points) < float(picture["from"])  # beside one another
