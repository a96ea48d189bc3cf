"""Words of a build: its steps and what is done in each, cautions, tools, amounts, waits, why the animal waits, moving day."""

from dataclasses import dataclass
from typing import Any, Final

from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from husbandry.assessment import Measure
from husbandry.build.standing import Lock
from husbandry.build.work import Amount, Step
from ridgeback.language.names import CHOICES
from ridgeback.language.things import MIXES, PLANTS, STUFF, THINGS
from ridgeback.units import KeeperUnits, written


@dataclass(frozen=True)
class StepWords:
    """A step's name, and what is done in it."""

    name: Any
    how: Any


STEPS: Final[dict[str, StepWords]] = {
    "inspect": StepWords(
        _("Look every used part over"),
        _(
            "Take it apart. "
            "Look for cracks, rust, mites, gnawed cables and old silicone. Mats, lamps and thermostats of unknown age go."
        ),
    ),
    "take-out": StepWords(
        _("Take out what has to go"),
        _("The animal waits elsewhere, warm and dark. Keep a handful of clean ground and one hide aside for their smell."),
    ),
    "wash": StepWords(_("Wash it"), _("Warm water, the corners too. Dirt makes every disinfectant weak.")),
    "disinfect": StepWords(
        _("Disinfect, rinse, dry"),
        _("As long as the label says, then rinse until nothing smells, then let it dry in moving air."),
    ),
    "stand": StepWords(
        _("Set it on its stand"), _("Level in both directions, out of sun and draught, with room behind for cables and a hand.")
    ),
    "openings": StepWords(
        _("Cut the vents"), _("From the inside out, with tape on the line. File the edge and glue or screw the mesh over it.")
    ),
    "cable-ways": StepWords(
        _("Make the ways for cables and probes"),
        _("A hole for each, no wider than its plug, with a grommet; in glass they go through the corner of the lid."),
    ),
    "seal": StepWords(_("Seal the wood"), _("A thin coat on every face and cut edge. Sand lightly before the next one.")),
    "sealed": StepWords(_("Let the sealer harden"), _("With all doors open, in moving air.")),
    "background-cut": StepWords(_("Cut the background"), _("Try it in dry. Leave the doors, vents and cable ways free.")),
    "background-glue": StepWords(
        _("Glue the background in"), _("Beads all round and across, pressed on until nothing can creep behind it.")
    ),
    "background-foam": StepWords(
        _("Foam over it"),
        _("Damp the boards, foam in thin layers: it grows to twice what you see. Plant pots and roots go in now."),
    ),
    "background-carve": StepWords(
        _("Carve it"), _("Outdoors if you can. Round every edge and close every hole an animal could push into.")
    ),
    "background-coat": StepWords(
        _("Coat it against heat and claws"), _("One part of powder to two of water, thin, and dry before the next coat.")
    ),
    "background-paint": StepWords(
        _("Paint it"), _("Water-based paint that is safe when it is dry, in two tones; then let it dry.")
    ),
    "background-coir": StepWords(
        _("Bed coir in silicone"),
        _("A hand's breadth at a time: silicone, coir pressed in, loose coir shaken off. It smells for days."),
    ),
    "fixings": StepWords(
        _("Fix shelves, branches and what hangs"), _("Each carries three times the animal. Pull at it with your own hand.")
    ),
    "mats": StepWords(
        _("Lay the mats"), _("Under or beside the ground as the plan has them, their thermostat's probe on the mat itself.")
    ),
    "heaters": StepWords(
        _("Hang the heaters with their guards"),
        _("At the heights of the plan, in holders that carry their watts. What the animal can reach gets a guard."),
    ),
    "lights": StepWords(
        _("Hang UV and light"), _("UV at the distance of the plan, with its reflector. Write today down as the day it was fitted.")
    ),
    "misting": StepWords(
        _("Fit the misting"), _("Nozzles as the plan has them, hose without kinks, the pump below its reservoir.")
    ),
    "probes": StepWords(
        _("Fix the probes"), _("Where the plan has them, with clips or silicone: a probe that slips heats until it burns.")
    ),
    "electrics-check": StepWords(
        _("Check everything on the mains"),
        _(
            "Every cable hangs in a drip loop, nothing lies near a lamp or in water, every plug sits. "
            "Press the test button of the protection."
        ),
    ),
    "barrier": StepWords(
        _("Lay the moisture barrier"), _("In one piece, a hand up the walls; fill it with water for an hour to see it holds.")
    ),
    "footings": StepWords(
        _("Set what stands on the floor"), _("Heavy things stand on footings that reach the floor, so that nobody digs under them.")
    ),
    "water": StepWords(
        _("Fill the water"), _("Treated against chlorine, at its temperature; then start the filter and look for drips.")
    ),
    "ground": StepWords(_("Fill in ground"), _("Mix it dry, wet it as said, pour it in and press it by hand.")),
    "furniture": StepWords(_("Set the furniture"), _("As the plan has it. Shake each piece: nothing may tip or slide.")),
    "plants": StepWords(_("Plant"), _("Roots rinsed of shop soil, leaves rinsed of sprays; water them in.")),
    "litter": StepWords(_("Spread the leaf litter"), _("Baked or frozen first, then soaked; two fingers deep.")),
    "mite-spray": StepWords(
        _("Spray against mites"), _("Before anything living is in, as the label says; then doors open until it is dry and aired.")
    ),
    "airing": StepWords(_("Air it"), _("Doors and vents open until nothing smells when you open it in the morning.")),
    "crew": StepWords(
        _("Let the clean-up crew in"), _("Under the litter, with a piece of bark and some rotten wood. Then let them be.")
    ),
    "planted": StepWords(_("Let the plants root"), _("Light and water as planned, nothing moved.")),
    "settle": StepWords(_("Let the ground settle"), _("Mist it as planned; what sinks is filled up.")),
    "cycle": StepWords(
        _("Let the filter ripen"),
        _("Feed it with a pinch of fish food a day, and measure: ammonia and nitrite at nought before an animal."),
    ),
    "test-run": StepWords(
        _("Run everything without the animal"),
        _("Switch it on as it will run, let it settle, and read every place by day and by night. One change at a time."),
    ),
    "quarantine": StepWords(
        _("Quarantine is over"), _("A reptile veterinarian has said so, or its days are over and its samples clean.")
    ),
    "animal-in": StepWords(_("The animal moves in"), _("In the evening, by itself out of its box. Then leave it in peace.")),
}
CAUTIONS: Final[dict[str, Any]] = {
    "reused-heat": _("Used mats and lamps are replaced, never fitted again: nobody knows what they have been through."),
    "animal-out-first": _("The animal is out first, in a warm, dark and closed box."),
    "mains-off": _("Pull the plug before you touch it, and let it cool."),
    "no-residue": _("No soap left behind: rinse twice."),
    "disinfect": _("Gloves and goggles; never mix two agents. What is safe for the animal's kind, a reptile veterinarian knows."),
    "ventilate": _("Open the windows."),
    "lift": _("Two people lift it."),
    "load": _("Ask whoever knows the building before it stands heavy on a wooden floor."),
    "goggles": _("Goggles. Glass that is hardened bursts when it is drilled: ask its maker."),
    "dust": _("A dust mask: cement, foam and dry coir all hurt lungs."),
    "gap": _("No gap wider than the animal's head: it finds each."),
    "fumes": _("No animal in the room until nothing smells any more."),
    "knife": _("Cut away from your hand."),
    "plain-silicone": _("Silicone with nothing in it against mould: that poison stays in it."),
    "gap-behind": _("Leave no hollow behind it: animals and feeders get stuck there and die."),
    "foam": _("Gloves, goggles, no flame: the propellant burns, and the foam never leaves skin or cloth."),
    "hot-wire": _("No hot wire: what melting foam gives off is poisonous."),
    "coat-before-heat": _("Bare foam burns: every part is covered before a heater is switched on near it."),
    "falls": _("What falls kills: two fixings each."),
    "fixing-holds": _("Suction cups and hot glue do not hold in warm damp air."),
    "mat-thermostat": _("A mat never runs without a thermostat, nor under a flat-bottomed box."),
    "guard": _("A lamp within reach needs a guard: reptiles do not feel a burn in time."),
    "holder": _("The holder's mark says what it carries. Plastic shells melt."),
    "flammable": _("Nothing that burns within 30 cm (12 in) of a lamp."),
    "uv-eyes": _("Do not look into UV or halide lamps."),
    "water-mains": _("Water below mains: no socket under a hose, a pump or a bowl."),
    "mister-clean": _("Distilled water, and clean it each month: what grows in it is breathed in."),
    "probe-fixed": _("A probe that slips off its place drives the heater full on."),
    "rcd": _("All of it hangs on a residual-current device. Test it."),
    "drip-loop": _("Each cable hangs lower than its socket first, so that water drips off."),
    "electrician": _("Fixed wiring, and whatever you are not sure of, is a licensed electrician's; local code decides."),
    "crush": _("What can tip or be dug under crushes: it stands on the floor, not on the ground."),
    "dechlorinate": _("Tap water is treated first. For amphibians and fish that is no choice."),
    "scrub": _("Found wood and stones: scrubbed, heated or frozen first."),
    "plant-sprays": _("Bought plants carry sprays for weeks: rinse them, and ask."),
    "no-fertiliser": _("No soil with fertiliser or white beads."),
    "foraged": _("Not from roadsides or sprayed ground."),
    "spray-before-crew": _("Now or never: it kills the crew and what eats it."),
    "vet-spray": _("Only an agent that a reptile veterinarian names for this kind."),
    "spray-after-crew": _("From now on nothing against mites is sprayed in here."),
    "cycle": _("No animal lives in water whose ammonia and nitrite are not at nought."),
    "no-animal-yet": _("The animal is not in yet: that is what the test is for."),
    "vet-clears": _("Whether it is clear, a reptile veterinarian tells."),
    "hands": _("Wash your hands before and after; amphibians only with clean wet hands."),
    "peace": _("A week of peace: no handling, no visitors. A meal refused now is usual."),
}
TOOLS: Final[dict[str, Any]] = {
    "torch": _("torch"),
    "tub": _("tub with a lid"),
    "gloves": _("gloves"),
    "cloth": _("cloth"),
    "bucket": _("bucket"),
    "disinfectant": _("disinfectant"),
    "level": _("spirit level"),
    "drill": _("drill"),
    "hole-saw": _("hole saw"),
    "file": _("file"),
    "grommets": _("grommets"),
    "brush": _("brush"),
    "sandpaper": _("sandpaper"),
    "knife": _("knife"),
    "tape-measure": _("tape measure"),
    "sealant-gun": _("sealant gun"),
    "foam-gun": _("foam gun"),
    "goggles": _("goggles"),
    "wire-brush": _("wire brush"),
    "dust-mask": _("dust mask"),
    "screwdriver": _("screwdriver"),
    "cable-clips": _("cable clips"),
    "sheet": _("sheet"),
    "tape": _("tape"),
    "hose": _("hose"),
    "conditioner": _("water conditioner"),
    "watering-can": _("watering can"),
    "trowel": _("trowel"),
    "oven-or-freezer": _("oven or freezer"),
    "thermometers": _("thermometers"),
}
WAITS: Final[dict[str, Any]] = {
    "disinfected": _("drying after disinfecting"),
    "sealed-coat": _("sealer between coats"),
    "sealed": _("sealer hardening"),
    "panels-glued": _("boards in their glue"),
    "foam": _("foam hardening"),
    "silicone": _("silicone"),
    "silicone-coir": _("silicone under coir"),
    "coat": _("plaster between coats"),
    "paint": _("paint drying"),
    "airing": _("airing"),
    "mite-spray": _("airing after mite spray"),
    "ground-settled": _("ground settling"),
    "planted": _("plants rooting"),
    "crew": _("crew settling"),
    "cycle": _("filter ripening"),
    "test-run": _("test run"),
}
AMOUNTS: Final[dict[str, Any]] = {
    "disinfectant": _("disinfectant, as it is used"),
    "vent-mesh": _("vent mesh"),
    "grommet": _("grommets"),
    "sealer": _("sealer"),
    "silicone-tube": _("cartridges of silicone, 310 ml"),
    "foam-can": _("cans of foam, 750 ml"),
    "coir": _("coir, dry"),
    "plaster": _("plaster powder"),
    "paint": _("paint"),
    "fixing": _("fixings"),
    "guard": _("guards"),
    "holder": _("lampholders"),
    "nozzle": _("nozzles"),
    "hose": _("hose"),
    "probe": _("probes"),
    "barrier-sheet": _("sheet"),
    "footing": _("footings"),
    "treated-water": _("treated water"),
    "water": _("water"),
    "leaf-litter": _("leaf litter"),
    "isopod": _("isopods"),
    "springtail-culture": _("of a springtail culture"),
    "old-ground": _("old ground to throw away"),
}
LOCKS: Final[dict[Lock, Any]] = {
    Lock.UNDONE: _("%(step)s is not done."),
    Lock.CURING: _("%(step)s: %(wait)s until %(until)s."),
    Lock.UNTESTED: _("The test run is not signed for."),
    Lock.QUARANTINE: _("It is in quarantine until %(until)s."),
}
MOVING: Final[dict[str, Any]] = {
    "read-once-more": _("Read the new enclosure once more, by day and by night."),
    "no-food-before": _("The last meal before: a full animal is not moved."),
    "weigh": _("Weigh it."),
    "waits-wet": _("It waits in a box with damp paper, closed and cool."),
    "waits-soaking": _("It waits in a lukewarm soak, no deeper than its chin, never alone."),
    "waits-dark": _("It waits in a dark box or bag with air holes, at room warmth."),
    "wet-hands": _("Touch it with clean wet hands or rinsed powder-free gloves only; no soap."),
    "wash-hands": _("Wash your hands before and after."),
    "match-water": _("Let its bag or tub float until both waters are as warm, then mix them by cups over half an hour."),
    "carry-ground": _("Carry a handful of its old clean ground over: it knows the smell."),
    "carry-hide": _("Carry its hide over as it is."),
    "in-by-itself": _("Set the open box in and let it come out by itself."),
    "lights-low": _("Lights low for the rest of the day, a cloth over the front."),
    "offer-water": _("Fresh water stands ready."),
    "look-from-afar": _("Look from afar: does it breathe quietly, has it found a hide?"),
    "first-meal": _("The first meal. If it is refused, take it out and wait as long again."),
    "handle-again": _("From now on it may be handled, shortly, if it eats."),
}


def name_of(step: Step) -> str:
    """A step's name, with which one of several it is."""
    if step.own or step.kind not in STEPS:
        return step.key
    name = str(STEPS[step.kind].name)
    number = step.key.removeprefix(step.kind).lstrip("-")
    if step.kind == "ground":
        return gettext("%(name)s: %(mix)s") % {
            "name": gettext("Layer %(n)s of the ground") % {"n": number},
            "mix": MIXES[step.of[0]],
        }
    if number:
        return gettext("%(name)s, %(n)s") % {"name": name, "n": ORDINALS.get(number, number)}
    return name


ORDINALS: Final[dict[str, Any]] = {
    "1": _("first time"),
    "2": _("second time"),
    "3": _("third time"),
    "4": _("fourth time"),
    "5": _("fifth time"),
    "6": _("sixth time"),
}


def amount_of(amount: Amount, units: KeeperUnits) -> str:
    """An amount in words, in the keeper's units."""
    name = thing_of(amount.what)
    if amount.unit == "L":
        return f"{units.say(Measure(amount.amount / 1000, 'm3'))} {name}"
    if amount.unit == "ml":
        return gettext("%(n)s ml %(what)s") % {"n": round(amount.amount), "what": name}
    if amount.unit:
        return f"{units.say(Measure(amount.amount, amount.unit))} {name}"
    return f"{written(amount.amount)} × {name}"


def thing_of(what: str) -> str:
    """What an amount is of, in words."""
    known = AMOUNTS.get(what) or CHOICES["heater"].get(what) or CHOICES["tube"].get(what) or CHOICES["light_bar"].get(what)
    if known:
        return str(known)
    for prefix, names in (("ground-", MIXES), ("thing-", THINGS), ("plant-", PLANTS)):
        if what.startswith(prefix):
            return str(names.get(what.removeprefix(prefix), what.removeprefix(prefix)))
    if what.startswith("panel-"):
        return gettext("background board (%(stuff)s)") % {"stuff": STUFF.get(what.removeprefix("panel-"), what)}
    return what


def hours_said(hours: float) -> str:
    """A wait in words: half an hour, hours, days or weeks."""
    if hours < 1:
        return gettext("%(n)s min") % {"n": round(60 * hours)}
    if hours < 48:
        return gettext("%(n)s h") % {"n": written(hours) if hours == int(hours) else written(hours, ".1f")}
    days = hours / 24
    if days >= 14 and days % 7 == 0:
        return gettext("%(n)s weeks") % {"n": written(days / 7)}
    return gettext("%(n)s days") % {"n": written(round(days, 1))}


def minutes_said(minutes: float) -> str:
    """Hand work in words."""
    if minutes < 90:
        return gettext("%(n)s min") % {"n": 5 * max(round(minutes / 5), 1)}
    return gettext("%(n)s h") % {"n": written(round(minutes / 60, 1))}


INSTRUMENTS: Final[dict[str, Any]] = {
    "infrared": _("an infrared thermometer"),
    "thermometer": _("a thermometer with a probe"),
    "hygrometer": _("a hygrometer"),
    "uv-meter": _("a UV index meter"),
}
PHASES: Final[dict[str, Any]] = {"day": _("by day"), "night": _("by night")}
ENDS: Final[dict[str, Any]] = {"on": _("going on"), "off": _("going off")}
