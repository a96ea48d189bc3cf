"""What every template knows: the keeper's units, and how they write numbers."""

from collections.abc import Callable
from typing import Any, Final

from django.http import HttpRequest, HttpResponse

from husbandry.numerals import Decimal
from ridgeback.accounts.models import Keeper
from ridgeback.units import KEEPERS_MARK, METRIC, KeeperUnits

DECIMALS: Final[dict[str, Decimal]] = {".": ".", ",": ","}


def units_of(keeper: object) -> KeeperUnits:
    """Return a keeper's units; metric for whoever is not signed in."""
    if not isinstance(keeper, Keeper):
        return METRIC
    return KeeperUnits(
        keeper.temperature_unit, keeper.length_unit, keeper.mass_unit, keeper.volume_unit, DECIMALS.get(keeper.decimal_mark, "")
    )


def in_their_numbers(respond: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: numbers are written with the decimal mark of the keeper who is answered, and of nobody after them."""

    def answer(request: HttpRequest) -> HttpResponse:
        before = KEEPERS_MARK.set(units_of(request.user).decimal)
        try:
            return respond(request)
        finally:
            KEEPERS_MARK.reset(before)

    return answer


def units(request: HttpRequest) -> dict[str, Any]:
    return {"units": units_of(getattr(request, "user", None))}
