"""A review in words: what is wrong and why, what mends it and what it takes, what was done since, what may be chosen."""

from collections.abc import Iterable
from typing import Any, Final

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from husbandry.assess.vetting import kind_of
from husbandry.assessment import Finding
from husbandry.climate.heaters import HEATERS
from husbandry.money.bill import BillLine
from husbandry.money.settings import Purse
from husbandry.money.shopping import ToBuy, basket
from husbandry.setup_review.proposal import Mending, Proposal
from husbandry.setup_review.review import Review, StandingFinding
from husbandry.setup_review.to_do import ToDo, Urgency, to_do
from husbandry.setup_review.to_do import since as since_before
from husbandry.setup_review.told import Told
from ridgeback.drawing.marks import chance_text
from ridgeback.language import harmwords, moneywords, reviewwords, wording
from ridgeback.language.names import CHOICES
from ridgeback.planner.spacing import NOMINAL_WORDS
from ridgeback.units import KeeperUnits, amount, written

MOST_RIGHT: Final = 8
SEEN: Final = ("over", "under", "wall")  # where a heater is that is told here
READ: Final = tuple((f"read_{name}", text) for name, text in reviewwords.READINGS.items())
HOUR_MIN: Final = 60.0
# What a press on the palette puts on the drawing: the group of rows, its first field's value, and what is known of it by that.
PALETTE: Final[tuple[tuple[str, str, dict[str, str]], ...]] = (
    ("heater", "reflector-flood", {}),
    ("heater", "halogen-flood", {}),
    ("heater", "ceramic-emitter", {}),
    ("heater", "mat", {}),
    ("tube", "?", {}),
    ("hide", "", {"humid": "no"}),
    ("hide", "", {"humid": "yes"}),
    ("bowl", "yes", {}),
)


def choices() -> dict[str, Any]:
    """What the form's lists offer."""
    heaters = [(key, text) for key, text in CHOICES["heater"].items() if HEATERS[key].place in SEEN]
    return {
        "kinds": list(CHOICES["enclosure"].items()),
        "nominals": list(NOMINAL_WORDS.items()),
        "grown": list(reviewwords.GROWN.items()),
        "lids": list(reviewwords.LIDS.items()),
        "grounds": list(CHOICES["ground"].items()),
        "heater_kinds": heaters,
        "tube_kinds": list(CHOICES["tube"].items()),
        "ends": list(reviewwords.ENDS.items()),
        "probes": list(reviewwords.PROBES.items()),
        "sure": [("yes", _("yes")), ("no", _("no"))],
        "palette": [
            {"group": group, "value": value, "humid": more.get("humid", ""), "name": _put(group, value, more)}
            for group, value, more in PALETTE
        ],
    }


def _put(group: str, value: str, more: dict[str, str]) -> str:
    if group == "heater":
        return str(CHOICES["heater"][value])
    named = {"tube": _("UV lamp"), "bowl": _("bowl of water"), "hide": _("hide")}
    return _("damp hide") if more.get("humid") == "yes" else named[group]


def said(found: Review, told: Told, units: KeeperUnits) -> dict[str, Any]:
    """A review in words."""
    rows = to_do(found)
    ask = found.ask
    now = {id(row.standing) for row in rows}
    return {
        "reviewed": True,
        "times": [
            {
                "when": when.value,
                "name": reviewwords.WHENS[when],
                "rows": _each_why_once([row_of(row.standing, units) | _until(row) for row in rows if row.when is when]),
            }
            for when in Urgency
        ],
        "possible": _each_why_once([row_of(one, units) for one in found.findings if id(one) not in now]),
        "question": None
        if ask is None
        else {
            "text": reviewwords.asked(ask.unknown, told),
            "share": f"{100 * ask.share:.0f}",
            "answers": [
                (f"{ask.unknown.path}|{index}", reviewwords.answer(ask.unknown.asks, value, units))
                for index, value in enumerate(ask.unknown.answers)
            ],
        },
        "unknowns": list(dict.fromkeys(reviewwords.unknown(one.unknown, told) for one in found.questions)),
        "right": list(dict.fromkeys(_within(wording.name(item)) for item in found.right))[:MOST_RIGHT],
    }


def _until(row: ToDo) -> dict[str, Any]:
    """When it is mended for good, where that is later than something is done; and what is done until then."""
    likely = "" if row.standing.certain else chance_text(row.standing.share)
    if row.mended is row.when:
        return {"likely": likely}
    about = row.standing.finding.code.partition(".")[0]
    until = reviewwords.UNTIL.get(about, reviewwords.UNTIL[""])
    return {"likely": likely, "later": reviewwords.WHENS[row.mended], "until": until}


def _each_why_once(rows: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """The same reason is told where it stands first."""
    seen: set[str] = set()
    for row in rows:
        row["why"] = "" if row["why"] in seen else row["why"]
        seen.add(row["why"])
    return rows


def _within(name: str) -> str:
    """A name as it stands within a sentence."""
    return name if name.startswith("UV") else name[:1].lower() + name[1:]


def key_of(finding: Finding) -> str:
    """A name for the place on the page where it stands."""
    return "-".join(part for part in kind_of(finding) if part).replace(".", "-").replace("/", "-").replace("_", "-")


def row_of(one: StandingFinding, units: KeeperUnits) -> dict[str, Any]:
    """One finding: what is wrong, why it matters, how likely it is."""
    return {
        "key": key_of(one.finding),
        "said": wording.finding(one.finding, units),
        "why": harmwords.why(one.finding.code),
        "severity": one.finding.severity.value,
        "chance": chance_text(one.share),
    }


def since(before: Review | None, after: Review, units: KeeperUnits) -> dict[str, Any]:
    """What was done since an earlier review; nothing where there was none."""
    if before is None:
        return {}
    told = since_before(before, after)
    return {"since": {name: [row_of(one, units) for one in getattr(told, name)] for name in ("done", "left", "new")}}


def proposed(found: Review, made: Proposal, purse: Purse | None, units: KeeperUnits) -> dict[str, Any]:
    """What mends each finding that is certain, what is bought for all of it, how long it takes, what is still left."""
    standing = {kind_of(one.finding) for one in found.findings}
    mendings = [
        {"key": key_of(item), **_mending(mending, purse, units)}
        for item in _once(made.found_before.findings)
        if kind_of(item) in standing and (mending := made.mendings.get(kind_of(item))) is not None
    ]
    return {
        "mendings": mendings,
        "mended": {one["key"]: one for one in mendings},
        "buy": [_line(line, units) for line in made.to_buy],
        "cost": _cost(made.to_buy, purse),
        "hours": hours_of(made.minutes),
        "left": list(dict.fromkeys(wording.finding(item, units) for item in made.left)),
    }


def _once(findings: Iterable[Finding]) -> list[Finding]:
    return list({kind_of(item): item for item in reversed(list(findings))}.values())


def _mending(mending: Mending, purse: Purse | None, units: KeeperUnits) -> dict[str, Any]:
    cost, hours = _cost(mending.to_buy, purse), hours_of(mending.minutes)
    bought = ", ".join(_line(line, units) for line in mending.to_buy)
    takes = [_("to buy: %(list)s") % {"list": bought} if bought else _("free")]
    takes += [_("at your prices %(cost)s") % {"cost": cost}] if cost else []
    takes += [_("about %(time)s of work") % {"time": hours}]
    return {
        "said": wording.remedy(mending.remedy, units),
        "takes": "; ".join(takes),
        "buy": ", ".join(_line(line, units) for line in mending.to_buy),
        "cost": cost,
        "hours": hours,
    }


def _line(line: BillLine, units: KeeperUnits) -> str:
    amount = moneywords.amount_of(line.amount, line.unit, units)
    name = moneywords.thing_of(line.what)
    return name if amount == "1" else f"{amount} × {name}" if not line.unit else f"{name}, {amount}"


def _cost(lines: Iterable[BillLine], purse: Purse | None) -> str:
    """What it costs at the prices of a room; "" where there are none, with what has no price where some have."""
    wanted = [ToBuy(line.what, line.amount) for line in lines]
    if purse is None or not wanted:
        return ""
    bought = basket(wanted, purse.offers, purse.shipping)
    if not bought.lines:
        return ""
    priced = amount(bought.total)
    missing = len(bought.unpriced)
    if not missing:
        return priced
    more = ngettext("%(priced)s, and %(n)s thing without a price", "%(priced)s, and %(n)s things without a price", missing)
    return more % {"priced": priced, "n": missing}


def hours_of(minutes: float) -> str:
    """So long, to the quarter of an hour from one hour on."""
    if minutes < HOUR_MIN:
        return _("%(n)s minutes") % {"n": f"{max(minutes, 5):.0f}"}
    quarters = round(minutes / 15)
    return _("%(n)s hours") % {"n": written(quarters / 4)}
