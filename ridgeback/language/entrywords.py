"""Words of the daybook: its kinds of entries, their fields, and the sentence that an entry is told by."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final

from django.utils.functional import Promise
from django.utils.text import capfirst
from django.utils.translation import gettext_lazy as _

from husbandry.assessment import Measure
from ridgeback.language import rotawords, told
from ridgeback.units import KeeperUnits, written

Said = Promise | str


@dataclass(frozen=True)
class KindWords:
    """A kind as it is named, what one presses to write it, and the caution that stands there."""

    name: Any
    write: Any = ""
    caution: Any = ""


VET: Final = _("Ridgeback keeps what you see and diagnoses nothing. When in doubt, ask a reptile veterinarian.")
KINDS: Final[dict[str, KindWords]] = {
    "animal.weighed": KindWords(_("weight"), _("Weigh")),
    "animal.measured": KindWords(_("length"), _("Measure")),
    "animal.condition": KindWords(_("body condition"), _("Score its body condition")),
    "animal.fed": KindWords(_("meal")),
    "animal.regurgitated": KindWords(
        _("meal brought up"),
        _("A meal was brought up"),
        _("Offer nothing for ten days, then a smaller meal. If it happens twice, ask a reptile veterinarian."),
    ),
    "animal.shed": KindWords(_("shed"), _("A shed"), _("Never pull at dry skin or at eye caps: soak, moisten the hide, wait.")),
    "animal.droppings": KindWords(_("droppings"), _("Droppings"), _("Wash your hands afterwards.")),
    "animal.soaked": KindWords(
        _("soak"), _("A soak"), _("Lukewarm water, no deeper than the chin. Never leave the animal alone in it.")
    ),
    "animal.behaviour": KindWords(_("behaviour"), _("How it behaves")),
    "animal.sign": KindWords(_("health sign"), _("A health sign"), VET),
    "animal.treated": KindWords(
        _("treatment"), _("A treatment"), _("Write it as the veterinarian wrote it. Ridgeback never reckons a dose.")
    ),
    "animal.handled": KindWords(_("handling"), _("Handling"), _("Not within two days after a snake's meal. Wash your hands.")),
    "animal.screened": KindWords(_("screening"), _("A sample or a check")),
    "animal.arrived": KindWords(_("arrival")),
    "animal.moved": KindWords(_("move")),
    "animal.left": KindWords(_("left")),
    "breeding.paired": KindWords(
        _("pairing"), _("A pairing"), _("Stay beside them: a bite is quick, above all of one that is hungry.")
    ),
    "breeding.courtship": KindWords(_("courtship"), _("Courtship")),
    "breeding.gravid": KindWords(
        _("gravid"), _("She is gravid"), _("Straining without laying, or weak: a reptile veterinarian, the same day.")
    ),
    "breeding.clutch": KindWords(_("clutch"), _("A clutch"), _("Do not turn reptile eggs: mark the top before you lift them.")),
    "breeding.candled": KindWords(_("candling"), _("Eggs candled"), _("A cool light, a few seconds, and no turning.")),
    "breeding.hatched": KindWords(_("hatching"), _("Hatched"), _("Do not pull one out of its egg: the yolk takes a day.")),
    "habitat.cleaned": KindWords(
        _("cleaning"), _("Cleaning"), _("Rinse and air after disinfecting: no fumes when the animal goes back.")
    ),
    "habitat.water": KindWords(_("water"), _("Water")),
    "habitat.lamp": KindWords(
        _("lamp replaced"), _("A lamp was replaced"), _("Switch it off at the mains and let it cool before you touch it.")
    ),
    "habitat.read": KindWords(_("reading")),
    "job.done": KindWords(_("chore")),
    "rota.moved": KindWords(_("turn moved")),
    "habitat.quarantine": KindWords(_("quarantine")),
    "habitat.built": KindWords(_("build")),
    "room.people": KindWords(_("people")),
    "note": KindWords(_("note"), _("A note")),
    "photo": KindWords(_("photo"), _("A photo")),
    "habitat.created": KindWords(_("first plan")),
    "plan.saved": KindWords(_("plan changed")),
    "plan.undone": KindWords(_("change undone")),
    "plan.redone": KindWords(_("change made again")),
    "plan.imported": KindWords(_("plan brought in")),
}
# What a timeline can be narrowed to.
GROUPS: Final[dict[str, tuple[Any, tuple[str, ...]]]] = {
    "body": (_("weight and growth"), ("animal.weighed", "animal.measured", "animal.condition")),
    "food": (_("meals"), ("animal.fed", "animal.regurgitated")),
    "skin": (_("sheds and droppings"), ("animal.shed", "animal.droppings")),
    "health": (_("behaviour and health"), ("animal.behaviour", "animal.sign", "animal.treated", "animal.screened")),
    "care": (
        _("care"),
        ("animal.soaked", "animal.handled", "habitat.cleaned", "habitat.water", "habitat.lamp", "job.done", "rota.moved"),
    ),
    "readings": (_("readings"), ("habitat.read",)),
    "moves": (
        _("coming and going"),
        ("animal.arrived", "animal.moved", "animal.left", "habitat.quarantine"),
    ),
    "breeding": (
        _("breeding"),
        (
            "breeding.paired",
            "breeding.courtship",
            "breeding.gravid",
            "breeding.clutch",
            "breeding.candled",
            "breeding.hatched",
        ),
    ),
    "notes": (_("notes and photos"), ("note", "photo")),
    "people": (_("people"), ("room.people",)),
    "plan": (_("the plan"), ("habitat.created", "plan.saved", "plan.undone", "plan.redone", "plan.imported", "habitat.built")),
}
FIELDS: Final[dict[str, Any]] = {
    "mass_kg": _("Weight"),
    "tare_kg": _("of it the tub"),
    "length_m": _("Length"),
    "score": _("Score, 1 to 5"),
    "days_after": _("Days after the meal"),
    "came": _("The skin came off"),
    "stuck": _("Some stayed on"),
    "look": _("They look"),
    "seen": _("Seen in them"),
    "sample": _("A sample was kept for the veterinarian"),
    "minutes": _("Minutes"),
    "looked_over": _("Looked over: skin, shell, toes, eyes, vent"),
    "what": _("What"),
    "dose": _("Dose, as the veterinarian wrote it"),
    "by": _("Prescribed by"),
    "reason": _("What for"),
    "every_days": _("Given every … days"),
    "until": _("Last day of the course"),
    "kind": _("What was done"),
    "result": _("Result"),
    "partner": _("With"),
    "eggs": _("Eggs or young"),
    "good": _("of them good"),
    "incubator_c": _("Warmth of the incubator"),
    "spread_c": _("It swings by ±"),
    "incubator_percent": _("Moisture of the incubator, %"),
    "left_in_place": _("They stay where they were laid"),
    "clutch": _("Which clutch"),
    "how": _("How"),
    "treated": _("The water was treated"),
    "part": _("Which lamp"),
    "note": _("Note"),
}
CHOICES: Final[dict[str, Any]] = {
    "whole": _("in one piece"),
    "pieces": _("in pieces"),
    "not-seen": _("unseen"),
    "toes": _("on toes"),
    "tail-tip": _("on the tail's tip"),
    "eye-caps": _("on the eyes"),
    "elsewhere": _("elsewhere"),
    "firm": _("firm, with white urates"),
    "soft": _("soft"),
    "runny": _("runny"),
    "dry": _("dry and hard"),
    "urates-only": _("urates only"),
    "blood": _("blood"),
    "slime": _("slime"),
    "worms": _("worms"),
    "undigested": _("undigested food"),
    "basks-all-day": _("basks all day"),
    "never-basks": _("never basks"),
    "always-cool-end": _("is always at the cool end"),
    "shuts-eyes": _("shuts its eyes under the lamp"),
    "shuns-corner": _("shuns one corner"),
    "gapes": _("gapes"),
    "paces-glass": _("paces along the glass"),
    "soaks-long": _("soaks for long"),
    "sleeps-in-open": _("sleeps in the open"),
    "will-not-eat": _("will not eat"),
    "empties-dish": _("empties the calcium dish again and again"),
    "hides-always": _("is always hidden"),
    "still-but-awake": _("lies still, awake, eyes open"),
    "digs": _("digs without end"),
    "sheds-in-pieces": _("sheds in pieces"),
    "normal": _("is as always"),
    "thin": _("thin: bones stand out"),
    "swelling": _("a swelling"),
    "eyes-closed": _("eyes closed or sunken"),
    "discharge": _("nose or mouth runs"),
    "open-mouth": _("breathes with open mouth"),
    "limp": _("weak or lame"),
    "twitching": _("twitches"),
    "soft-shell": _("soft shell or jaw"),
    "skin-wound": _("a wound"),
    "burn": _("a burn"),
    "mites": _("mites or ticks"),
    "prolapse": _("tissue hangs out of the vent"),
    "strains": _("strains"),
    "runny-droppings": _("runny droppings"),
    "floats-tilted": _("floats tilted"),
    "other": _("something else"),
    "handled": _("handled"),
    "trained": _("trained"),
    "shown": _("shown to visitors"),
    "waiting": _("not known yet"),
    "clean": _("clean"),
    "found": _("something was found"),
    "spot": _("droppings and leftovers"),
    "part": _("a part of it"),
    "disinfected": _("all of it, and disinfected"),
    "changed": _("changed"),
    "part-changed": _("changed in part"),
    "topped-up": _("topped up"),
    "tested": _("tested"),
    "eyes-clear": _("eyes clear and open"),
    "nose-dry": _("nose dry"),
    "mouth-clean": _("mouth pink and clean"),
    "vent-clean": _("vent clean"),
    "skin-whole": _("skin and shell whole"),
    "alert": _("alert and strong"),
    "good-weight": _("well filled"),
    "no-mites": _("no mites or ticks"),
    "rehomed": _("rehomed"),
    "returned": _("given back"),
    "lent": _("lent"),
    "escaped": _("escaped"),
    "died": _("died"),
}
# One word, two meanings: by kind and field first.
CHOICES_OF: Final[dict[tuple[str, str, str], Any]] = {
    ("habitat.cleaned", "how", "whole"): _("all of it"),
}
# Signs that wait for nothing.
URGENT: Final = frozenset({"open-mouth", "limp", "twitching", "prolapse", "strains", "burn", "floats-tilted", "soft-shell"})
TODAY: Final = _("Call a reptile veterinarian today.")
SHOW: Final = _("Show it to a reptile veterinarian.")


def choice(kind: str, field: str, code: str) -> str:
    """The word of a choice."""
    return str(CHOICES_OF.get((kind, field, code)) or CHOICES.get(code, code))


def _several(kind: str, field: str, codes: Any) -> str:
    return ", ".join(choice(kind, field, code) for code in codes or ())


def _of_laid(payload: Mapping[str, Any], units: KeeperUnits) -> str:
    said = [_count(payload.get("eggs", 0), _("1 laid or born"), _("%(count)s laid or born"))]
    if payload.get("good") is not None:
        said.append(str(_("%(count)s good") % {"count": payload["good"]}))
    if payload.get("incubator_c") is not None:
        said.append(str(_("incubated at %(warmth)s") % {"warmth": units.say(Measure(payload["incubator_c"], "degC"))}))
    if payload.get("left_in_place"):
        said.append(str(_("left where they lie")))
    return ", ".join(said)


def _count(count: int, one: Any, more: Any) -> str:
    return str(one) if count == 1 else str(more % {"count": count})


def said(kind: str, payload: Mapping[str, Any], units: KeeperUnits) -> str:
    """What an entry says, in the keeper's units; its note is told apart, and so are meals and readings (`keeping.timeline`)."""
    text = _said(kind, payload, units)
    return str(capfirst(text))


def _said(kind: str, payload: Mapping[str, Any], units: KeeperUnits) -> str:
    """What an entry tells: of an animal, else of a clutch, a habitat, a room or a plan."""
    of_animal = kind.startswith("animal.") or kind == "habitat.water"
    return _of_animal(kind, payload, units) if of_animal else _of_the_rest(kind, payload, units)


def _of_animal(kind: str, payload: Mapping[str, Any], units: KeeperUnits) -> str:
    get = payload.get
    match kind:
        case "animal.weighed":
            return units.say(Measure(payload["mass_kg"], "kg"))
        case "animal.measured":
            return units.say(Measure(payload["length_m"], "m"))
        case "animal.condition":
            return str(_("%(score)s of 5") % {"score": payload["score"]})
        case "animal.regurgitated":
            days = get("days_after")
            return "" if days is None else _count(days, _("1 day after the meal"), _("%(count)s days after the meal"))
        case "animal.shed":
            stuck = _several(kind, "stuck", get("stuck"))
            came = choice(kind, "came", get("came", "whole"))
            return f"{came}; {_('left')} {stuck}" if stuck else came
        case "animal.droppings":
            parts = (choice(kind, "look", get("look", "firm")), _several(kind, "seen", get("seen")))
            kept = str(_("a sample was kept")) if get("sample") else ""
            return "; ".join(part for part in (*parts, kept) if part)
        case "animal.soaked" | "animal.handled":
            minutes = get("minutes")
            done = choice(kind, "kind", get("kind", "handled")) if kind == "animal.handled" else ""
            lasted = f"{written(minutes)} min" if minutes else ""
            over = str(_("looked over")) if get("looked_over") else ""
            return ", ".join(part for part in (done, lasted, over) if part)
        case "animal.behaviour" | "animal.sign" | "habitat.water":
            treated = f", {_('treated')}" if get("treated") else ""
            return choice(kind, "what", get("what", "changed")) + treated
        case "animal.treated":
            until = str(_("until %(day)s") % {"day": payload["until"]}) if get("until") else ""
            return ", ".join(part for part in (get("what", ""), get("dose", ""), until, get("reason", ""), get("by", "")) if part)
        case "animal.screened":
            return f"{get('what', '')}: {choice(kind, 'result', get('result', 'waiting'))}"
        case "animal.arrived":
            origin = str(_("from %(place)s") % {"place": get("came_from")}) if get("came_from") else ""
            return "; ".join(part for part in (origin, _several(kind, "sound", get("sound"))) if part)
        case "animal.moved":
            return _of_move(payload)
        case "animal.left":
            return choice(kind, "how", get("how", ""))
        case _:
            return ""


def _of_the_rest(kind: str, payload: Mapping[str, Any], units: KeeperUnits) -> str:
    get = payload.get
    match kind:
        case "habitat.built" | "room.people":
            return told.in_readers(get(told.KEPT), payload["what"])
        case "habitat.quarantine":
            return str(QUARANTINE[payload["what"]] % {"day": payload["until"]})
        case "breeding.clutch":
            return _of_laid(payload, units)
        case "breeding.candled" | "breeding.hatched":
            return _count(get("good", 0), _("1 good"), _("%(count)s good"))
        case "habitat.cleaned":
            return choice(kind, "how", get("how", "spot"))
        case "job.done":
            done = str(rotawords.job(get("job", "")).name)
            return done if get("outcome") != "skipped" else str(_("%(chore)s left out on purpose") % {"chore": done})
        case "habitat.created" | "plan.imported":
            return str(get("name", ""))
        case "plan.saved" | "plan.undone" | "plan.redone":
            return told.in_readers(get(told.KEPT), get("label", ""))
        case _:
            return ""


def _of_move(payload: Mapping[str, Any]) -> str:
    origin, target = payload.get("origin_name", ""), payload.get("target_name", "")
    if origin and target:
        text = _("from %(origin)s to %(target)s") % {"origin": origin, "target": target}
    else:
        text = _("into %(target)s") % {"target": target} if target else _("out of %(origin)s") % {"origin": origin}
    why = payload.get("why", "")
    return f"{text}: {WHY[why]}" if why in WHY else str(text)


QUARANTINE: Final[dict[str, Any]] = {
    "begun": _("begun, until %(day)s"),
    "changed": _("now until %(day)s"),
    "ended": _("ended by decision on %(day)s"),
}
WHY: Final[dict[str, Any]] = {
    "arrival": _("it has come"),
    "quarantine-over": _("quarantine is over"),
    "growth": _("it has grown"),
    "season": _("for the season"),
    "young-apart": _("hatchlings away from adults"),
    "males-apart": _("males apart"),
    "fighting": _("they fight"),
    "breeding": _("to breed"),
    "treatment": _("for treatment"),
    "rebuilding": _("while its habitat is rebuilt"),
    "found-again": _("found again"),
    "other": _("another reason"),
}
SEX: Final[dict[str, Any]] = {"unknown": _("sex not known"), "female": _("female"), "male": _("male")}
SEXED_BY: Final[dict[str, Any]] = {
    "look": _("by its look"),
    "probe": _("by a probe"),
    "hatch-temperature": _("by the warmth it hatched at"),
    "eggs": _("she laid eggs"),
    "scan": _("by a scan"),
    "blood": _("by a blood test"),
    "breeder": _("the breeder said so"),
}
ORIGIN: Final[dict[str, Any]] = {
    "unknown": _("origin not known"),
    "bred-here": _("bred here"),
    "captive-bred": _("captive-bred"),
    "farmed": _("farmed"),
    "wild-caught": _("wild-caught"),
    "found": _("found or handed in"),
}
