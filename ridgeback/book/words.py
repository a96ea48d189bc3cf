"""Words for a profile's fields, values, faults and problems."""

from typing import Any, Final

from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from husbandry.codes import FaultCode
from husbandry.species.checks import BrokenRule
from husbandry.species.leaves import Leaf
from husbandry.species.profile import Profile
from husbandry.species.reading import ProfileProblem
from husbandry.units import convert
from ridgeback.book import leafwords
from ridgeback.language import wording
from ridgeback.language.booktext import book
from ridgeback.units import KeeperUnits

FIELDS: Final = {
    "activity": _("Awake"),
    "heat_sense": _("Takes up warmth by"),
    "uv_zone": _("UV zone"),
    "oral_d3": _("Vitamin D3 by mouth"),
    "housing": _("Housed in"),
    "company": _("Company"),
    "together": _("Together"),
    "water": _("Water"),
    "supply": _("Food supply"),
    "forgiving": _("Bears mistakes"),
    "law": _("Law"),
    "costs.set_up": _("Cost of the set-up"),
    "costs.year": _("Cost of a year"),
    "origin": _("Origin"),
    "native_latitude": _("Degrees from the equator"),
    "morph_faults": _("Faults of lines"),
    "normal_signs": _("Normal for it"),
    "dormancy": _("Rest"),
    "cautions": _("Cautions"),
    "hides": _("Hides"),
    "reproduction.clutch": _("Eggs or young"),
    "reproduction.clutches_a_year": _("Clutches a year"),
    "reproduction.incubation": _("Days of incubation"),
    "reproduction.gestation_days": _("Days of gestation"),
    "reproduction.laying_site": _("Where she lays"),
    "reproduction.laying_depth_cm": _("Depth she digs"),
    "reproduction.laying_c": _("Warmth of the laying site"),
    "reproduction.sexing": _("How the sexes are told"),
    "reproduction.sexing_months": _("Sexes can be told from, months"),
    "reproduction.without_male": _("Laying without a male"),
    "reproduction.trouble": _("Signs of trouble"),
    "reproduction.vet_after_days": _("A veterinarian after, days"),
    "health.screen_for": _("A veterinarian tests for"),
    "health.quarantine_weeks": _("Weeks of quarantine"),
    "health.tests": _("Tests in quarantine"),
    "health.never_with": _("Never kept with"),
    "health.zoonoses": _("Can reach people"),
    "water_chemistry.ammonia_mg_l": _("Ammonia, mg/L"),
    "water_chemistry.nitrite_mg_l": _("Nitrite, mg/L"),
    "water_chemistry.nitrate_mg_l": _("Nitrate, mg/L"),
    "water_chemistry.ph": _("pH"),
    "water_chemistry.hardness_dgh": _("General hardness, °dGH"),
    "water_chemistry.cycling_weeks": _("Weeks until the filter works"),
    "water_chemistry.turnover_per_hour": _("Filter turns the water over, times an hour"),
    "body.adult_length_cm": _("Adult length"),
    "body.adult_mass_g": _("Adult weight"),
    "body.adult_by_sex.female.length_cm": _("Female's length"),
    "body.adult_by_sex.female.mass_g": _("Female's weight"),
    "body.adult_by_sex.male.length_cm": _("Male's length"),
    "body.adult_by_sex.male.mass_g": _("Male's weight"),
    "body.hatch_length_cm": _("Length at hatching"),
    "body.hatch_mass_g": _("Weight at hatching"),
    "body.total_to_measure": _("Measured over total length"),
    "body.back_height_share": _("Height of the back over length"),
    "body.lifespan_years": _("Years of life"),
    "body.years_to_adult": _("Years to grow up"),
    "age_months": _("Age in months"),
    "mass_g": _("Weight"),
    "length_cm": _("Length"),
    "climbing": _("Climbing"),
    "space.rules": _("Size"),
    "space.extra_animal_share": _("Each further animal adds"),
    "space.shrinks_because": _("Smaller because"),
    "heat.basking_surface_c": _("Basking surface"),
    "heat.mat_surface_c": _("Ground over a mat"),
    "heat.warm_air_c": _("Warm-end air"),
    "heat.cool_air_c": _("Cool-end air"),
    "heat.night_c": _("Night"),
    "heat.ceiling_c": _("Harm begins, warm end"),
    "heat.cool_ceiling_c": _("Harm begins, cool end"),
    "heat.night_ceiling_c": _("Harm begins, night"),
    "heat.surface_ceiling_c": _("Hottest surface ever"),
    "moisture.day_percent": _("Humidity by day"),
    "moisture.night_percent": _("Humidity by night"),
    "moisture.humid_hide_percent": _("Humid hide"),
    "moisture.misting_per_day": _("Mistings a day"),
    "light.uv_index": _("UV index at the back"),
    "light.lit_share_percent": _("Share under UV"),
    "light.hours": _("Hours of light"),
    "ground.depth_cm": _("Ground depth"),
    "ground.kinds": _("Ground"),
    "feeding.interval_days": _("Days between feeds"),
    "feeding.shorter_because": _("More often because"),
    "feeding.time_of_day": _("Time of feeding"),
    "feeding.meals": _("Meal"),
    "feeding.supplements": _("Supplement"),
    "feeding.no_supplements_because": _("No dusting because"),
    "water.temperature_c": _("Water temperature"),
    "water.depth_cm": _("Water depth"),
    "water.change": _("Water changes"),
}
# How the end of a field's name says its unit: (SI unit, factor from the profile's unit into SI).
UNITS: Final = {"_c": ("degC", 1.0), "_cm": ("m", 0.01), "_g": ("kg", 0.001), "_percent": ("%", 1.0)}
LIMITS: Final = ("least", "most")  # of a field, in its own unit
FAULTS: Final = {
    FaultCode.NOT_SANE: _("No animal in the book is kept at that; %(least)s to %(most)s is possible. Is the unit right?"),
    FaultCode.NIGHT_ABOVE_COOL: _("The night is warmer than the cool end by day."),
    FaultCode.COOL_ABOVE_WARM: _("The cool end is warmer than the warm end."),
    FaultCode.WARM_ABOVE_CEILING: _("The warm end passes the air from which harm begins there, %(most)s."),
    FaultCode.COOL_ABOVE_CEILING: _("The cool end passes the air from which harm begins there, %(most)s."),
    FaultCode.NIGHT_ABOVE_CEILING: _("The night passes the air from which harm begins by night, %(most)s."),
    FaultCode.CEILINGS_CROSS: _("Harm begins at the night's temperature first, then at the cool end's, then at the warm end's."),
    FaultCode.BASKING_NOT_WARMEST: _("The basking surface is no warmer than the air at the warm end."),
    FaultCode.BASKING_ABOVE_CEILING: _("The basking surface passes the hottest surface there may ever be, %(most)s."),
    FaultCode.NO_SURFACE_CEILING: _("Where it basks, the hottest surface there may ever be must be said."),
    FaultCode.SURFACE_CEILING_LOW: _("The hottest surface is cooler than the hottest air."),
    FaultCode.NIGHT_DRIER: _("Nights are drier than days."),
    FaultCode.HIDE_DRIER: _("The humid hide is drier than the day."),
    FaultCode.BEYOND_ZONE: _("Animals of zone %(zone)s were never met in more than %(most)s."),
    FaultCode.NONE_IS_NONE: _("No UVB means an index of 0."),
    FaultCode.WATER_WITHOUT_WARMTH: _("It lives in water, and no water temperature is said."),
    FaultCode.WATER_WITHOUT_LITRES: _("It lives in water, and no rule says how much."),
    FaultCode.OFF_ITS_TABLE: _("This does not stand as the table it names (%(table)s) has it."),
    FaultCode.SPACE_SHRINKS: _("%(stage)s needs less room than %(before)s; say why."),
    FaultCode.FED_MORE_OFTEN: _("%(stage)s is fed more often than %(before)s; say why."),
    FaultCode.HATCHES_GROWN: _("It would hatch as large as a grown one."),
    FaultCode.GROWS_ALL_ITS_LIFE: _("It would grow longer than it lives."),
    FaultCode.NO_SUCH_ZONE: _("There is no UV zone %(value)s; zones are 1 to 4."),
    FaultCode.STAGE_NOT_OPEN: _("The %(stage)s's %(measure)s must be open at its end."),
}
PROBLEMS: Final = {
    "too_large": _("More than %(limit)s kB: that is not a profile."),
    "too_deep": _("This is nested too deeply, or holds too many values: that is not a profile."),
    "too_long_number": _("It holds a number with too many digits."),
    "no_text": _("It holds characters that cannot be stored as text."),
    "not_finite": _("It holds NaN or infinity where a number is needed."),
    "zoned_time": _("A time of day stands without a time zone."),
    "bad_json": _("This is not valid JSON: %(why)s."),
    "bad_toml": _("This is not valid TOML: %(why)s."),
    "not_a_table": _("A profile is a table of fields."),
    "other_format": _("The format is %(found)s; this program reads %(known)s."),
    "missing": _("This is missing."),
    "unknown_field": _("A profile has no such field."),
    "unknown_choice": _("“%(found)s” is not one of %(known)s."),
    "not_valid": _("“%(found)s”: %(why)s."),
    "not_valid_part": _("%(why)s."),
    "not_a_number": _("“%(found)s” is not a number with a unit."),
}


def bare(path: str) -> str:
    """A field's path without the stage and without places in lists: "heat.night_c"."""
    steps = path.split(".")
    if steps[0] == "stages":
        steps = steps[2:]
    return ".".join(step for step in steps if not step.isdigit())


def label(path: str, profile: Profile | None = None) -> str:
    """What a field is called, with its stage where it has one."""
    steps = path.split(".")
    known = bare(path)
    while known and known not in FIELDS:
        known = known.rpartition(".")[0]
    said = str(FIELDS[known]) if known else path
    if profile is not None and steps[0] == "stages" and len(steps) > 1 and int(steps[1]) < len(profile.stages):
        return f"{profile.stages[int(steps[1])].name.capitalize()}: {said}"
    return said


def unit_of(path: str) -> tuple[str, float] | None:
    """The SI unit a field's numbers are shown by, and the factor into it; None for plain numbers."""
    name = bare(path).rpartition(".")[2]
    return next((unit for ending, unit in UNITS.items() if name.endswith(ending)), None)


def number(value: float, path: str, units: KeeperUnits) -> str:
    """One of a field's numbers in the keeper's units, without the unit."""
    unit = unit_of(path)
    if unit is None:
        return units.marked(f"{value:g}")
    si, factor = unit
    shown = units.unit_for(si)
    turned = convert(value * factor, si, shown) if shown != si else value * factor
    return units.marked(f"{round(turned, 2):g}")


def symbol(path: str, units: KeeperUnits) -> str:
    """The sign of a field's unit, "" for plain numbers."""
    unit = unit_of(path)
    return "" if unit is None else units.number(1.0, unit[0], typed=True)[1]


def value(leaf: Leaf | None, path: str, units: KeeperUnits) -> str:
    """A leaf's value in words and in the keeper's units."""
    if leaf is None:
        return gettext("nothing")
    sentence = leafwords.said(leaf, units)
    if sentence:
        return sentence
    return f"{_plain(leaf, path, units)}{leafwords.whose(leaf)}"


def _plain(leaf: Leaf, path: str, units: KeeperUnits) -> str:
    """The numbers or the words of a leaf that has no sentence of its own."""
    fields = leaf.model_dump(exclude={"basis", "cite", "note", "school", "sex", "table", "method"}, exclude_none=True)
    sign = symbol(path, units)
    if set(fields) <= {"low", "high"}:
        low, high = (None if fields.get(end) is None else number(fields[end], path, units) for end in ("low", "high"))
        if low is None or high is None:
            said = gettext("from %(low)s") % {"low": low} if high is None else gettext("up to %(high)s") % {"high": high}
        else:
            said = low if low == high else f"{low}–{high}"
        return f"{said} {sign}".strip()
    if set(fields) == {"value"}:
        single: Any = fields["value"]
        return f"{number(single, path, units)} {sign}".strip() if isinstance(single, float) else book(single)
    raise TypeError(f"no words for {type(leaf).__name__}")


def _told(item: BrokenRule | ProfileProblem, units: KeeperUnits) -> dict[str, str]:
    """What is put into a sentence: limits of a field in the keeper's units, with their sign."""
    told = {}
    for name, given in item.parameters.items():
        if isinstance(given, str):
            told[name] = book(given)
        elif name in LIMITS:
            told[name] = f"{number(given, item.path, units)} {symbol(item.path, units)}".strip()
        else:
            told[name] = wording.plain(name, given)
    return told


def fault(item: BrokenRule, units: KeeperUnits) -> str:
    return gettext(str(FAULTS[item.code])) % _told(item, units)


def problem(item: ProfileProblem, units: KeeperUnits) -> str:
    """A fault of an imported text, with its line."""
    said = gettext(str(PROBLEMS.get(item.code) or FAULTS[FaultCode(item.code)])) % _told(item, units)
    return f"{gettext('line %(line)s') % {'line': item.line}}: {said}" if item.line else said
