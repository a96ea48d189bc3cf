"""The names of what stands in an enclosure and of what the ground is made of."""

from typing import Any

from django.utils.translation import gettext_lazy as _

THINGS: dict[str, Any] = {
    "hide": _("hide"),
    "cave": _("cave"),
    "humid-hide": _("humid hide"),
    "buried-hide": _("buried hide with a tunnel"),
    "cork-tube": _("cork tube"),
    "branch": _("branch"),
    "vine": _("vine"),
    "ledge": _("ledge"),
    "wood": _("piece of wood"),
    "slate": _("slate"),
    "stone": _("stone"),
    "stack": _("stack of tiles"),
    "bowl": _("water bowl"),
    "soaking-bowl": _("soaking bowl"),
    "feeding-dish": _("feeding dish"),
    "feeding-slate": _("feeding slate"),
    "planter": _("planter"),
    "plant": _("plant"),
    "fake-plant": _("artificial plant"),
    "digging-box": _("digging box"),
    "laying-box": _("laying box"),
    "partition": _("partition with a passage"),
    "strip-curtain": _("strip curtain"),
    "cuttlebone": _("cuttlebone"),
}
STUFF: dict[str, Any] = {
    "": _("the usual"),
    "cork": _("cork"),
    "wood": _("wood"),
    "stone": _("stone"),
    "slate": _("slate"),
    "ceramic": _("ceramic"),
    "resin": _("resin"),
    "plastic": _("plastic"),
    "coated-foam": _("coated foam"),
    "fabric": _("fabric"),
    "leaves": _("leaves"),
    "bone": _("bone"),
}
STANDS: dict[str, Any] = {
    "": _("the usual"),
    "ground": _("on the ground"),
    "floor": _("on the enclosure's own floor"),
    "wall": _("on a wall"),
    "hanging": _("hanging"),
}
MIXES: dict[str, Any] = {
    "paper": _("paper"),
    "sand": _("sand"),
    "sandy-loam": _("sandy loam"),
    "soil": _("soil"),
    "clay": _("clay"),
    "gravel": _("gravel"),
    "clay-balls": _("clay balls"),
    "coir": _("coir"),
    "bark": _("bark"),
    "aspen": _("aspen shavings"),
    "moss": _("moss"),
    "leaf-litter": _("leaf litter"),
    "rotten-wood": _("rotten wood"),
    "charcoal": _("charcoal"),
}
RECIPES: dict[str, Any] = {
    "layered-desert": _("layered desert ground"),
    "arid-mix": _("arid mix"),
    "forest": _("forest ground on drainage"),
    "tortoise": _("tortoise mix"),
    "rotten-wood-layer": _("forest ground with rotten wood"),
    "paper": _("paper"),
    "digging-part": _("soil and sand to dig in"),
}
