"""The inputs of each step of the plan screen, and the parts that can be added at it."""

from dataclasses import replace
from datetime import date
from typing import Any, Final

from django.utils.translation import gettext as _

from husbandry.animal.body import body_of
from husbandry.assessment import Measure
from husbandry.feeding.prey_measure import measured_by
from husbandry.plan.equipment import Heater
from husbandry.plan.geometry import mount
from husbandry.plan.grounds import MOST_AREAS, MOST_LAYERS, MOST_PARTS, Layer
from husbandry.plan.habitat import MOST_PROBES, HabitatPlan
from husbandry.remedies.heating import MOST_HEATERS
from husbandry.units import TOLERANCE_M
from ridgeback.book import profiles
from ridgeback.language import names, wording
from ridgeback.language.booktext import book
from ridgeback.planner import fields, furnishing, inputs, revisions
from ridgeback.rooms.models import Habitat
from ridgeback.units import KeeperUnits

# Lengths of the animal: said by the measure its species is known by.
LENGTHS: Final = ("animal.length_m",)
PREY_MEASURE: Final = "feeding.measured_m"


def species_choices(habitat: Habitat, plan: HabitatPlan) -> list[tuple[str, str]]:
    """What the room can plan by, and the plan's own species even where its profile was taken away."""
    found = profiles.choices([habitat.room_id])
    if plan.species not in {species for species, _name in found}:
        found.insert(0, (plan.species, book(revisions.profile_of(habitat, plan.species).common)))
    return found


def field_groups(
    habitat: Habitat, plan: HabitatPlan, step: str, units: KeeperUnits, rejected: dict[str, fields.Rejected], today: date
) -> list[dict[str, Any]]:
    """The step's inputs with their values, what is wrong with those `rejected`, and what is offered for them."""
    profile = revisions.profile_of(habitat, plan.species)
    shown: list[dict[str, Any]] = []
    for group in inputs.groups(plan, step):
        drawn = []
        for field in group.fields:
            one = fields.show(plan, field, units)
            if field.choices == "species":
                one = replace(one, options=tuple(species_choices(habitat, plan)))
            if field.path in LENGTHS:
                label = names.LENGTH_MEASURES[profile.body.length_measure]
                one = replace(one, field=replace(field, label=label))
            if field.path == PREY_MEASURE:
                by = measured_by(plan, body_of(plan, profile, today))
                if not by:
                    continue
                label, aside = names.PREY_MEASURES[by]
                one = replace(one, field=replace(field, label=label), picture=by, aside=str(aside))
            if field.path in rejected:
                wrong = rejected[field.path]
                one = replace(
                    one,
                    value=wrong.text,
                    error=wording.problem(wrong.problem, units),
                    offers=tuple((text, text.replace("degF", "°F").replace("degC", "°C")) for text in wrong.offers),
                    asks=wrong.asks,
                )
            drawn.append(one)
        bad = any(one.error for one in drawn)
        # The first part lies open; the others are folded to one line unless something in them is wrong.
        crowded = step in ("enclosure", "furniture") or any(item["part"] for item in shown)
        folded = bool(group.part) and crowded and not bad
        hangs = _hangs_by(plan, group.part, units)
        said = " · ".join(part for part in (_said_of(plan, group.part, units) or _summary(drawn), hangs) if part)
        shown.append({"title": group.title, "part": group.part, "fields": drawn, "folded": folded, "said": said, "hangs": hangs})
        shown[-1]["copies"] = group.part.startswith("things.") and step == "furniture"
    return shown


def _said_of(plan: HabitatPlan, part: str, units: KeeperUnits) -> str:
    """A thing's place and size, or what a layer is made of; "" for all else."""
    one = fields.value_at(plan, part) if part.startswith(("things.", "ground.layers.")) else None
    if one is None:
        return ""
    return furnishing.what_it_is_made_of(one, units) if isinstance(one, Layer) else furnishing.where_and_how_large(plan, one, units)


def _hangs_by(plan: HabitatPlan, part: str, units: KeeperUnits) -> str:
    """What a lamp, tube or bar hangs by, with its drop; "" for whatever else."""
    group, _dot, number = part.partition(".")
    hung = getattr(plan, group)[int(number)] if group in ("heaters", "uv_lamps", "light_bars") else None
    if hung is None or (isinstance(hung, Heater) and not hung.hangs):
        return ""
    kind, drop_m = mount(plan, hung)
    return str(names.MOUNTS[kind.value]) % {"drop": units.say(Measure(drop_m, "m"))}


def _summary(shown: list[fields.ShownField]) -> str:
    """The first quantities of a folded group: "60 W · 44 cm · 38 cm"."""
    said = [f"{one.value} {one.symbol}" for one in shown if one.field.kind == "quantity" and one.value]
    return " · ".join(said[:4])


def _all_water(plan: HabitatPlan) -> bool:
    """Tell whether there is no dry floor a bowl could stand on."""
    return plan.pool is not None and plan.pool.length_m >= plan.enclosure.length_m - TOLERANCE_M


def _mixed_into(plan: HabitatPlan, index: int) -> str:
    """The words for mixing one more material into a layer."""
    layers = plan.ground.layers
    if len(layers) == 1:
        return _("Mix in one more material")
    which = {0: _("the lowest layer"), len(layers) - 1: _("the top layer")}.get(index, _("layer %(n)s") % {"n": index + 1})
    return _("Mix one more material into %(which)s") % {"which": which}


def additions(plan: HabitatPlan, step: str) -> list[tuple[str, Any]]:
    """What can be added at this step: the part's path and the button's words."""
    vents, gaps, winter = plan.enclosure.vents, plan.enclosure.gaps, plan.misting.winter
    offers: dict[str, list[tuple[str, Any, bool]]] = {
        "room": [("window", _("Add sun through a window"), plan.window is None)],
        "heat": [
            (f"heaters.{len(plan.heaters)}", _("Add a heater"), len(plan.heaters) < MOST_HEATERS),
            (f"probes.{len(plan.probes)}", _("Add a thermometer's probe"), len(plan.probes) < MOST_PROBES),
        ],
        "light": [
            (f"uv_lamps.{len(plan.uv_lamps)}", _("Add a UV lamp"), len(plan.uv_lamps) < 4),
            (f"light_bars.{len(plan.light_bars)}", _("Add a light bar"), len(plan.light_bars) < 4),
        ],
        "enclosure": [
            (f"enclosure.vents.{len(vents)}", _("Add a vent"), len(vents) < 6 and plan.enclosure.lid == "solid"),
            (f"enclosure.gaps.{len(gaps)}", _("Add a gap it could get into"), len(gaps) < 6),
        ],
        "ground": [
            ("ground.layers", _("Add a layer on top"), len(plan.ground.layers) < MOST_LAYERS),
            *(
                (f"ground.layers.{index}.parts", _mixed_into(plan, index), len(layer.parts) < MOST_PARTS)
                for index, layer in reversed(list(enumerate(plan.ground.layers)))
            ),
            ("ground.areas", _("Add a part of the floor with its own ground"), len(plan.ground.areas) < MOST_AREAS),
        ],
        "moisture": [
            ("things.bowl", _("Add a water bowl"), plan.bowl is None and not _all_water(plan)),
            ("pool", _("Add a pool"), plan.pool is None),
            ("mister", _("Tell of the mister's pump"), plan.mister is None and bool(plan.misting.times)),
            (f"misting.times.{len(plan.misting.times)}", _("Add a misting time"), len(plan.misting.times) < 12),
            ("misting.winter", _("Give winter its own misting"), plan.misting.winter is None and plan.misting.any),
            *(
                [(f"misting.winter.times.{len(winter.times)}", _("Add a misting time in winter"), len(winter.times) < 12)]
                if winter is not None
                else []
            ),
        ],
    }
    return [(path, words) for path, words, possible in offers.get(step, []) if possible]
