"""Words of the salad builder: parts, warnings, what is never fed and why."""

from typing import Final

from django.utils.translation import gettext_lazy as _

from husbandry.diet.never import STANDING, Never

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
    "yew": _("yew"),
    "oleander": _("oleander"),
    "foxglove-lily-of-the-valley": _("foxglove, lily of the valley"),
    "rhododendron-azalea": _("rhododendron, azalea"),
    "laburnum": _("laburnum"),
    "hemlock": _("hemlock and its kin"),
    "nightshade": _("nightshade, thorn apple, green of tomato and potato"),
    "box-privet": _("box, privet, cherry laurel"),
    "monkshood-larkspur": _("monkshood, larkspur"),
    "ragwort-buttercup": _("ragwort, buttercup, hellebore, ivy"),
    "bulbs": _("daffodil, tulip, hyacinth, autumn crocus, amaryllis"),
    "spurges": _("spurges, crown of thorns, poinsettia"),
    "arums": _("arum, dumb cane and other plants of the arum family where they may be bitten"),
    "milkweed": _("milkweed"),
    "fireflies": _("fireflies"),
    "blister-beetles": _("blister beetles and oil beetles"),
    "monarchs": _("monarchs and other butterflies in warning colours, with their caterpillars"),
    "hairy-caterpillars": _("hairy caterpillars"),
    "stinging-insects": _("bees, wasps, scorpions, centipedes"),
    "toads": _("toads and salamanders, to what does not live on them"),
    "compost-worms": _("compost worms with a bitter yellow fluid, as a staple"),
    "manure-worms": _("worms from manured or sprayed ground"),
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
    "sap": _("the milky sap burns mouth and eyes"),
    "needles": _("fine needles of oxalate swell mouth and throat"),
    "hairs": _("the hairs stick in mouth and gut"),
    "stings": _("they sting"),
    "toad-poison": _("the poison of the skin kills"),
    "bitter": _("refused or brought up again, and harmful in numbers"),
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


def standing() -> str:
    """The plants that must not stand in an enclosure, one after the other."""
    return "; ".join(str(FOODS[item.food]) for item in STANDING)


def whom(diet: str) -> set[str]:
    """The groups of the never-feed list an animal of this diet belongs to, the grass eaters apart."""
    found = {diet}
    if diet in ("plants", "omnivore"):
        found.add("plants")
    if diet in ("water prey", "whole prey", "omnivore"):
        found |= {"fish", "meat"}
    return found
