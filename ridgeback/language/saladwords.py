"""Words of the salad builder: parts, warnings, what is never fed and why."""

from typing import Final

from django.utils.translation import gettext_lazy as _

from husbandry.diet.never import Never

PARTS: Final = {
    "hay": _("Hay and grass"),
    "weed": _("Weeds"),
    "leaf": _("Leaves"),
    "vegetable": _("Vegetables"),
    "flower": _("Flowers"),
    "fruit": _("Fruit"),
}
TRAITS: Final = {
    "oxalate": _("oxalate"),
    "goitrogen": _("cabbage kind"),
    "sugary": _("sweet"),
    "starchy": _("starchy"),
    "watery": _("mostly water"),
    "rich": _("rich in protein"),
}
MINDS: Final = {
    "oxalate": _("%(share)s %% is rich in oxalate, which takes the calcium; %(most)s %% is the most."),
    "goitrogen": _("%(share)s %% is of the cabbage kind; %(most)s %% is the most, day after day."),
    "fruit": _("%(share)s %% is fruit; %(most)s %% is the most for this animal."),
}
GAVE_WAY: Final = {
    "variety": _("More than half is one plant: fetch another kind."),
    "goitrogen": _("More of the cabbage kind than one wants every day."),
    "ratio": _("Nothing here makes calcium one and a half to two times phosphorus: dust it, or fetch weeds."),
    "parts": _("Too much fruit or oxalate for want of anything else."),
}
FOODS: Final = {
    "avocado": _("avocado"),
    "rhubarb": _("rhubarb"),
    "onion-garlic": _("onion, leek, garlic"),
    "foxglove-oleander-yew": _("foxglove, oleander, yew, lily of the valley"),
    "ragwort-buttercup": _("ragwort, buttercup, daffodil, ivy"),
    "fireflies": _("fireflies"),
    "wild-insects": _("insects caught where there is spraying"),
    "bought-bouquet": _("flowers and pot plants from a shop"),
    "dog-cat-food": _("dog and cat food"),
    "bread-pasta-dairy": _("bread, pasta, milk, cheese"),
    "citrus": _("citrus fruit"),
    "thiaminase-fish-alone": _("goldfish, minnows or smelt alone"),
    "raw-meat-alone": _("bare meat"),
    "fruit-for-grazers": _("fruit, for grass-eating tortoises"),
    "spinach-chard-daily": _("spinach, chard, beet leaves as a staple"),
    "live-rodents": _("live rodents"),
}
REASONS: Final = {
    "poison": _("poisonous"),
    "blood": _("breaks blood cells"),
    "sprays": _("poisoned by sprays"),
    "protein": _("far too much protein"),
    "gut": _("the gut cannot work it"),
    "acid": _("too acid"),
    "thiaminase": _("destroys vitamin B1"),
    "calcium": _("no bones: no calcium"),
    "sugar": _("sugar upsets a gut made for grass"),
    "oxalate": _("oxalate takes the calcium"),
    "bites": _("they bite; and it hurts the prey: thawed is kinder to both"),
}
FORAGING: Final = {
    "sure": _("Pick only what you know for certain."),
    "sprayed": _("Not where anybody sprays, nor beside fields after spraying."),
    "roadside": _("Not by busy roads."),
    "dogs": _("Not where dogs go."),
    "washed": _("Wash it and shake it dry."),
    "little": _("Little from each place; protected plants stay: local law decides."),
}


def never(item: Never) -> tuple[object, object]:
    """A food never fed, and why."""
    return FOODS[item.food], REASONS[item.reason]


def whom(diet: str) -> set[str]:
    """The groups of the never-feed list an animal of this diet belongs to, the grass eaters apart."""
    found = {diet}
    if diet in ("plants", "omnivore"):
        found.add("plants")
    if diet in ("water prey", "whole prey", "omnivore"):
        found |= {"fish", "meat"}
    return found
