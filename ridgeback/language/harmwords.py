"""Why a finding matters to the animal, in one sentence: what comes of it where nobody mends it. Common practice, no source."""

from typing import Any, Final

from django.utils.translation import gettext_lazy as _

from husbandry.codes import FindingCode as Code

_COLD: Final = _("An animal that cannot get warm does not digest, and has little to set against an infection.")
_HOT: Final = _("An animal that cannot get away from heat dies of it within hours; cold takes weeks.")
_BURNS: Final = _("Reptiles do not feel a hot surface in time: they stay, and burn.")
_HELD: Final = _("Without something that holds it back a heater goes on warming on the hottest day of the year.")
_NIGHT: Final = _(
    "The night's fall is part of the day's course; a night that is too warm leaves no rest, one too cold no digestion."
)
_HIDDEN: Final = _("An animal without cover at the warmth it needs has to choose between feeling safe and being warm.")
_STUCK: Final = _("What sticks, falls or slips out is found too late, most often in the morning.")
_SMALL: Final = _(
    "In too small a box there is no cool end, no way to move, and every mistake of the heating reaches the whole of it."
)
_UV: Final = _("Without UVB the animal makes no vitamin D3, and takes up little of the calcium that it eats.")
_BLIND: Final = _("Too strong a UV lamp harms the eyes and the skin, and the animal keeps away from its warm place.")
_DRY: Final = _(
    "Where it is too dry the shed stays on, most of all round toes and eyes, and the animal loses water with each breath."
)
_WET: Final = _("Where it is always wet, skin and lungs fall ill.")
_WATER: Final = _("Thirst does not show until it has done harm.")
_FOUL: Final = _("What lives in water breathes and drinks it: foul or wrong water harms before anything is seen.")
_GROUND: Final = _(
    "Ground is where it digs, cools itself and keeps its moisture; the wrong one offers none of it, or is swallowed."
)
_COMPANY: Final = _("Animals that cannot keep out of each other's way fight, or the weaker one stops eating without being bitten.")
_UNSURE: Final = _("What it needs hangs on its age and size: without them the numbers here are only likely.")
_READ: Final = _("What is measured counts: the model only reckons.")
WHY: Final[dict[Code, Any]] = {
    **dict.fromkeys((Code.SPACE_TOO_SMALL, Code.SPACE_SMALL_BY_SCHOOL, Code.SPACE_OUTGROWN_SOON), _SMALL),
    **dict.fromkeys((Code.MEASURED_LOW, Code.MEASURED_HIGH, Code.MEASURED_UV_LOW, Code.MEASURED_UV_HIGH), _READ),
    Code.MEASURED_NO_THERMOMETER: _("A thermostat that fails does not say so; a second instrument does."),
    **dict.fromkeys(
        (
            Code.WATER_NONE, Code.WATER_TOO_LITTLE, Code.WATER_SHALLOW, Code.WATER_DEEP, Code.WATER_COLD, Code.WATER_WARM,
            Code.WATER_BELOW_GROUND, Code.WATER_NITRATE, Code.WATER_AMMONIA, Code.WATER_FILTER_YOUNG, Code.WATER_FILTER_SLOW,
            Code.WATER_FILTER_FAST, Code.WATER_RESERVOIR, Code.SPACE_IN_POOL,
        ),
        _FOUL,
    ),
    **dict.fromkeys(
        (
            Code.SPACE_OPEN_TOP, Code.SPACE_FALL, Code.SPACE_GAP_OUT, Code.SPACE_GAP_STICKS, Code.SPACE_GAP_HIDES,
            Code.SPACE_GROUND_OVER_SILL, Code.SPACE_BURIED, Code.SPACE_SOFTENS,
        ),
        _STUCK,
    ),
    Code.MOISTURE_AT_SOCKETS: _("Water and mains voltage do not go together: it can kill the animal and you."),
    **dict.fromkeys((Code.SPACE_HIDES, Code.SPACE_NO_WARM_HIDE, Code.SPACE_NO_COOL_HIDE, Code.SPACE_LIT_HIDE), _HIDDEN),
    **dict.fromkeys(
        (
            Code.HEAT_BASKING_COLD, Code.HEAT_WARM_AIR_COLD, Code.HEAT_COOL_AIR_COLD, Code.HEAT_NO_MAT, Code.HEAT_OVER_MAT_COLD,
            Code.HEAT_SMALL_PATCH,
        ),
        _COLD,
    ),
    **dict.fromkeys((Code.HEAT_WARM_AIR_HOT, Code.HEAT_COOL_AIR_HOT, Code.HEAT_CEILING), _HOT),
    **dict.fromkeys(
        (
            Code.HEAT_NIGHT_COLD, Code.HEAT_NIGHT_WARM_END_COLD, Code.HEAT_NIGHT_COOL_END_WARM, Code.HEAT_NIGHT_WARM,
            Code.HEAT_LIGHT_AT_NIGHT, Code.UV_AT_NIGHT,
        ),
        _NIGHT,
    ),
    **dict.fromkeys(
        (
            Code.HEAT_BASKING_HOT, Code.HEAT_TOO_CLOSE, Code.HEAT_MAT_HOT, Code.HEAT_OVER_MAT_HOT, Code.HEAT_BACK_HOT,
            Code.HEAT_UNGUARDED, Code.HEAT_LAMP_TOO, Code.SPACE_PLACE_HOT,
        ),
        _BURNS,
    ),
    **dict.fromkeys((Code.HEAT_NO_THERMOSTAT, Code.HEAT_WRONG_THERMOSTAT), _HELD),
    Code.HEAT_IN_WATER: _("Whatever is in the water, and whoever reaches into it, can be killed by the first fault."),
    Code.HEAT_HOLDER: _("A lamp that is too strong for its holder softens it, and it can set fire to what is near."),
    **dict.fromkeys(
        (Code.UV_MISSING, Code.UV_WEAK, Code.UV_BEHIND_GLASS, Code.UV_AGE_UNKNOWN, Code.UV_OLD, Code.UV_SESSIONS_SHORT), _UV
    ),
    **dict.fromkeys((Code.UV_STRONG, Code.UV_NO_SHADE, Code.UV_NOT_WANTED, Code.SPACE_PLACE_STRONG), _BLIND),
    **dict.fromkeys((Code.MOISTURE_DRY, Code.MOISTURE_HIDE_DRY, Code.MOISTURE_NO_HUMID_HIDE), _DRY),
    **dict.fromkeys((Code.MOISTURE_WET, Code.MOISTURE_HIDE_WET), _WET),
    **dict.fromkeys((Code.MOISTURE_NO_BOWL, Code.MOISTURE_NO_DROPS), _WATER),
    **dict.fromkeys(
        (Code.GROUND_SHALLOW, Code.GROUND_DEEP, Code.GROUND_QUARANTINE, Code.GROUND_CREW_DRY, Code.GROUND_CREW_HUNGRY), _GROUND
    ),
    **dict.fromkeys(
        (
            Code.ANIMAL_COMPANY, Code.ANIMAL_BETTER_ALONE, Code.ANIMAL_TOO_MANY, Code.ANIMAL_MALES, Code.ANIMAL_YOUNG,
            Code.ANIMAL_EATEN,
        ),
        _COMPANY,
    ),
    **dict.fromkeys(
        (
            Code.ANIMAL_TOO_OLD, Code.ANIMAL_STAGE_UNKNOWN, Code.ANIMAL_STAGE_DISPUTED, Code.ANIMAL_LENGTH_UNKNOWN,
            Code.ANIMAL_SEXES_UNKNOWN, Code.ANIMAL_NOT_HATCHED, Code.ANIMAL_MASS_UNLIKELY, Code.ANIMAL_LENGTH_UNLIKELY,
        ),
        _UNSURE,
    ),
    Code.DIET_UNDUSTED: _("Insects hold little calcium: without it on them bone goes soft, and the animal shows it late."),
}  # fmt: skip


def why(code: Code) -> str:
    """Why a finding matters, or nothing where nobody has said it."""
    return str(WHY.get(code, ""))
