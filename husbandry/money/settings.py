"""What a keeper says of money in a room: prices by shop and pack, shipping, the tariff, what a year brings besides."""

from typing import Annotated, Final, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from husbandry.money.energy import Tariff
from husbandry.money.shopping import ShopOffer
from husbandry.plan.equipment import Part

MOST: Final = 1_000_000.0
Money = Annotated[float, Field(ge=0, le=MOST)]
Shop = Annotated[str, Field(min_length=1, max_length=40)]


class Price(Part):
    """What a shop asks for a pack of something, the pack in the thing's own unit."""

    what: Annotated[str, Field(min_length=1, max_length=60)]
    shop: Shop
    price: Money
    pack: Annotated[float, Field(gt=0, le=100_000)] = 1.0

    @property
    def offer(self) -> ShopOffer:
        """The same for reckoning."""
        return ShopOffer(self.what, self.shop, self.price, self.pack)


class Purse(Part):
    """Prices of a room, in one currency of the keeper's own.

    `shipping` by shop; `veterinarian` and `insurance` a year for each habitat; `ground_share` of the ground is renewed in a year;
    `rate` of interest as a share a year, 0 for none.
    """

    prices: Annotated[tuple[Price, ...], Field(max_length=600)] = ()
    shipping: Annotated[dict[Shop, Money], Field(max_length=40)] = Field(default_factory=dict)
    tariff: Tariff = Tariff()
    veterinarian: Money = 0.0
    insurance: Money = 0.0
    ground_share: Annotated[float, Field(ge=0, le=12)] = 0.5
    rate: Annotated[float, Field(ge=0, le=0.3)] = 0.0

    @model_validator(mode="after")
    def _one_price_each(self) -> Self:
        seen = [(one.what, one.shop) for one in self.prices]
        twice = next((pair for pair in seen if seen.count(pair) > 1), None)
        if twice is not None:
            raise PydanticCustomError("price_twice", "one shop has two prices for it", {"what": twice[0], "shop": twice[1]})
        return self

    @property
    def offers(self) -> tuple[ShopOffer, ...]:
        """All prices, for reckoning."""
        return tuple(price.offer for price in self.prices)
