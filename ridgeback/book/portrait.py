"""What to know of a species before it comes: is it for me, how it is, and where its keepers disagree."""

from typing import Any, Final

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from husbandry.space.sizing import Need, needs_of_grown
from husbandry.species.leaves import Leaf, Range
from husbandry.species.profile import Profile, leaves_with_paths
from ridgeback.book import leafwords, shelf, words
from ridgeback.book.catalogue import brief
from ridgeback.language import names, wording
from ridgeback.language.booktext import book
from ridgeback.units import KeeperUnits, written

OUTLIVES_YEARS: Final = 30.0  # from here on an animal may well outlive its keeper
SENSES: Final = {
    "basking surface": gettext_lazy("basks on a hot surface"),
    "belly heat": gettext_lazy("warms its belly"),
    "warm air": gettext_lazy("lives in warm air"),
    "cool": gettext_lazy("wants it cool"),
}
HOUSED: Final = {"": gettext_lazy("what holds its bands"), "screen": gettext_lazy("a screen cage, with lamp and tube above it")}
ORAL_D3: Final = {
    "serves": gettext_lazy("vitamin D3 by mouth serves"),
    "doubtful": gettext_lazy("vitamin D3 by mouth is doubtful: give UVB"),
    "unknown": gettext_lazy("whether vitamin D3 by mouth serves is not known: give UVB"),
}


def limits(item: Range) -> dict[str, str]:
    """A range's ends as words for a sentence."""
    return {"low": written(item.low), "high": written(item.high)}


def _mass(item: Range, units: KeeperUnits) -> str:
    low, high = ((limit or item.middle) / 1000 for limit in (item.low, item.high))
    return units.between(low, high, "kg")


def basis(leaf: Leaf | None) -> str:
    """Where a leaf comes from; "" for none."""
    return "" if leaf is None else wording.basis(leaf.origin)


def bases(needed: dict[str, Need]) -> str:
    """Where the sizes come from: the rule that asks for most on each measure, each origin once."""
    return "; ".join(dict.fromkeys(wording.basis(need.rule.origin) for need in needed.values()))


def facts(profile: Profile, units: KeeperUnits) -> list[dict[str, str]]:
    """ "Is it for me?": what to know before buying, each with its basis."""
    body, costs = profile.body, profile.costs
    years = body.lifespan_years
    long_lived = (years.high or 0.0) >= OUTLIVES_YEARS
    row = shelf.row(brief(profile), units)
    prices = _("%(set_low)s–%(set_high)s to set up, %(low)s–%(high)s a year") % {
        "set_low": written(costs.set_up.low),
        "set_high": written(costs.set_up.high),
        **limits(costs.year),
    }
    told: list[tuple[str, str, Leaf | None]] = [
        (_("Grown"), f"{row.length}, {_mass(body.adult_mass_g, units)}", body.adult_length_cm),
        (_("Lives"), f"{row.years}" + ("; " + _("it may outlive you") if long_lived else ""), years),
        (_("Grown up"), _("after %(low)s–%(high)s years") % limits(body.years_to_adult), body.years_to_adult),
        (_("Grown, it needs"), row.size, None),
        (_("Eats"), book(profile.supply.value), profile.supply),
        (_("Costs, in € or $"), prices, costs.set_up),
        (_("Bears mistakes"), book(profile.forgiving.value), profile.forgiving),
        (_("Company"), book(profile.company.value), profile.company),
        (_("Law"), book(profile.law.value), profile.law),
        (_("Warmth"), str(SENSES[profile.heat_sense.value]), profile.heat_sense),
        (
            _("UV"),
            _("zone %(zone)s; %(d3)s") % {"zone": profile.uv_zone.value, "d3": ORAL_D3[profile.oral_d3.value]},
            profile.uv_zone,
        ),
        (_("Housed in"), str(HOUSED[profile.housing.value if profile.housing is not None else ""]), profile.housing),
        (_("Awake"), book(profile.activity.value), profile.activity),
        (_("Water"), book(profile.water.value), profile.water),
    ]
    of_size = {_("Grown, it needs"): bases(needs_of_grown(profile))}
    return [{"name": name, "said": said, "basis": of_size.get(name, basis(leaf))} for name, said, leaf in told]


def character(profile: Profile, units: KeeperUnits) -> list[dict[str, Any]]:
    """Origin, sexes, what is normal, faults of lines, and its rests, each a short list with its bases."""
    told: list[tuple[str, list[tuple[str, Leaf]]]] = [
        (_("Where it comes from"), [(book(profile.origin.value), profile.origin)]),
        (_("Normal for it"), [(book(item.value), item) for item in profile.normal_signs]),
        (_("Faults of some lines"), [(book(item.value), item) for item in profile.morph_faults]),
        (_("Male and female"), [(_sex(profile, sex, units), size.length_cm) for sex, size in profile.body.adult_by_sex.items()]),
        (_("Rest"), [(leafwords.dormancy(item, units), item) for item in profile.dormancy]),
        (_("Eggs and young"), _reproduction(profile, units)),
        *_health(profile),
        (_("Its water"), _chemistry(profile, units)),
    ]
    return [
        {"name": name, "lines": [{"said": said, "basis": basis(leaf)} for said, leaf in lines]} for name, lines in told if lines
    ]


def _health(profile: Profile) -> list[tuple[str, list[tuple[str, Leaf]]]]:
    """What a veterinarian tests for, how long it stays apart, from whom for good, and what can reach people."""
    health = profile.health
    if health is None:
        return []
    apart = _("%(low)s–%(high)s weeks apart from all others; %(tests)s") % {
        **limits(health.quarantine_weeks),
        "tests": book(health.tests.value),
    }
    return [
        (_("A veterinarian tests for"), [(book(item.value), item) for item in health.screen_for]),
        (_("Quarantine"), [(apart, health.quarantine_weeks)]),
        (_("Never kept with"), [(book(item.value), item) for item in health.never_with]),
        (_("Can reach people"), [(book(item.value), item) for item in health.zoonoses]),
    ]


BEARS: Final = {
    "eggs": gettext_lazy("eggs in a clutch: %(count)s; clutches a year: %(often)s"),
    "live young": gettext_lazy("live young: %(count)s; births a year: %(often)s"),
    "spawn": gettext_lazy("eggs in a clutch: %(count)s; clutches a year: %(often)s"),
}


def _ends(item: Range) -> str:
    """A range's ends, or the one number that it is."""
    ends = limits(item)
    return ends["low"] if ends["low"] == ends["high"] else f"{ends['low']}–{ends['high']}"


def _reproduction(profile: Profile, units: KeeperUnits) -> list[tuple[str, Leaf]]:
    """Clutches, days, the laying site, how the sexes are told, and when a veterinarian is asked."""
    breeds = profile.reproduction
    if breeds is None:
        return []
    said = {"count": _ends(breeds.clutch), "often": _ends(breeds.clutches_a_year)}
    found: list[tuple[str, Leaf]] = [(str(BEARS[breeds.bears]) % said, breeds.clutch)]
    if breeds.incubation:
        days = "; ".join(leafwords.incubation(item, units) for item in breeds.incubation)
        found.append((_("They take %(days)s") % {"days": days}, breeds.incubation[0]))
    if breeds.gestation_days is not None:
        found.append((_("Carried for %(low)s–%(high)s days") % limits(breeds.gestation_days), breeds.gestation_days))
    where = [book(breeds.laying_site.value)]
    for name, leaf in (("laying_depth_cm", breeds.laying_depth_cm), ("laying_c", breeds.laying_c)):
        if leaf is not None:
            where.append(words.value(leaf, f"reproduction.{name}", units))
    found.append((_("Where she lays: %(where)s") % {"where": ", ".join(where)}, breeds.laying_site))
    found.append((_("Without a male: %(said)s") % {"said": book(breeds.without_male.value)}, breeds.without_male))
    told = {"how": book(breeds.sexing.value), "months": written(breeds.sexing_months.value)}
    how = (
        _("Male and female are told by %(how)s; from %(months)s months on")
        if breeds.sexing_months.value
        else (_("Male and female are told by %(how)s"))
    )
    found.append((how % told, breeds.sexing))
    told = {"signs": book(breeds.trouble.value), "days": written(breeds.vet_after_days.value)}
    found.append((_("Trouble: %(signs)s. After %(days)s days at the latest a reptile veterinarian") % told, breeds.trouble))
    return found


def _chemistry(profile: Profile, units: KeeperUnits) -> list[tuple[str, Leaf]]:
    if profile.water_chemistry is None:
        return []
    named = type(profile.water_chemistry).model_fields
    leaves = [(f"water_chemistry.{name}", getattr(profile.water_chemistry, name)) for name in named]
    return [(f"{words.label(path, profile)}: {words.value(leaf, path, units)}", leaf) for path, leaf in leaves]


def _sex(profile: Profile, sex: str, units: KeeperUnits) -> str:
    size = profile.body.adult(sex)
    length = words.value(size.length_cm, "body.adult_length_cm", units)
    return f"{names.CHOICES['sex'][sex]}: {length}, {_mass(size.mass_g, units)}"


def _in_stages(label: str, stages: list[str], profile: Profile) -> str:
    """A field's name with the stages it is said of; without them where that is all."""
    if stages == [""] or len(stages) == len(profile.stages):
        return label
    return f"{', '.join(stages).capitalize()}: {label}"


def schools(profile: Profile, units: KeeperUnits) -> list[dict[str, Any]]:
    """Where keepers disagree: topic by topic, each school with its values; what is alike in several stages is said once."""
    found: dict[str, dict[str, dict[tuple[str, str, str], list[str]]]] = {}
    for path, leaf in leaves_with_paths(profile):
        dotted = ".".join(map(str, path))
        stage = profile.stages[int(path[1])].name if path[0] == "stages" else ""
        for topic, school in leaf.schools.items():
            said = words.label(dotted), words.value(leaf, dotted, units), basis(leaf)
            lines = found.setdefault(topic, {}).setdefault(school, {})
            lines.setdefault(said, [])
            if stage not in lines[said]:
                lines[said].append(stage)
    return [
        {
            "topic": wording.topic(topic),
            "schools": [
                {
                    "name": wording.school(topic, name),
                    "lines": [
                        {"label": _in_stages(label, stages, profile), "said": said, "basis": origin}
                        for (label, said, origin), stages in lines.items()
                    ],
                }
                for name, lines in of_topic.items()
            ],
        }
        for topic, of_topic in found.items()
    ]
