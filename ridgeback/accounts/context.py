"""What every template knows: the keeper's units."""

from typing import Any, Final

from django.http import HttpRequest

from husbandry.numerals import Decimal
from ridgeback.accounts.models import Keeper
from ridgeback.units import METRIC, KeeperUnits

DECIMALS: Final[dict[str, Decimal]] = {".": ".", ",": ","}


def units_of(keeper: object) -> KeeperUnits:
    """Return a keeper's units; metric for whoever is not signed in."""
    if not isinstance(keeper, Keeper):
        return METRIC
    return KeeperUnits(
        keeper.temperature_unit, keeper.length_unit, keeper.mass_unit, keeper.volume_unit, DECIMALS.get(keeper.decimal_mark, "")
    )


def units(request: HttpRequest) -> dict[str, Any]:
    return {"units": units_of(getattr(request, "user", None))}
