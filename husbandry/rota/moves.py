"""What it would mean to move one turn of the rota to another day: gaps, powders, fasts, days nobody comes."""

from dataclasses import replace
from datetime import date, timedelta
from typing import Final

from husbandry.assessment import Measure, Reason
from husbandry.codes import ReasonCode
from husbandry.rota.card import Card, Days, RoomDays, expand

LOOK: Final = timedelta(days=45)
# A gap this share beyond the rule's own on either side is told.
FAR_SHARE: Final = 0.34


def consequences(card: Card, job: str, planned: date, to: date, at: RoomDays) -> tuple[Reason, ...]:
    """Say what moving the turn of `job` ("feed" or a chore's id) to the day `to` does; empty where it does no harm.

    `planned` is the day of the rule. A turn that is late, was moved before or was set to a day on which somebody comes stands
    on another day, and does not stand in its own way.
    """
    today, weekdays, moves = at.today, at.weekdays, at.moves
    if to < today:
        return (Reason(ReasonCode.MOVE_PAST),)
    found = []
    begin, end = min(today, planned) - LOOK, max(planned, to) + LOOK
    before = expand(card, begin, end, at)
    stands = _stands(before, job, planned)
    changed = {name: dict(turns) for name, turns in moves.items()}
    changed.setdefault(job, {})[planned] = to
    after = expand(card, begin, end, replace(at, moves=changed))
    if weekdays and to.weekday() not in weekdays:
        found.append(Reason(ReasonCode.MOVE_OFF_ROOM_DAYS, {"weekday": to.isoformat()}))
    if job != "feed":
        days = sorted(item.day for item in before.jobs if item.id == job and item.day != stands)
        return (*found, *((Reason(ReasonCode.MOVE_TWICE, {"day": to.isoformat()}),) if to in days else ()))
    return (*found, *_of_feeds(card, stands, to, before, after))


def _stands(days: Days, job: str, planned: date) -> date:
    """Return the day on which a turn stands; its own where it is none of these days."""
    if job == "feed":
        turns = [(feed.day, feed.due) for feed in days.feeds]
    else:
        turns = [(item.day, item.due) for item in days.jobs if item.id == job]
    return next((day for day, due in turns if due == planned), planned)


def _of_feeds(card: Card, stands: date, to: date, before: Days, after: Days) -> list[Reason]:
    found = []
    fast = next((item for item in card.feed.fasts if item.holds(to)), None)
    if fast is not None:
        found.append(Reason(ReasonCode.MOVE_FAST, {"day": fast.last.isoformat(), "why": fast.why}))
        return found
    others = sorted({feed.day for feed in before.feeds if feed.day != stands})
    if card.feed.last_offered is not None:
        others = sorted({*others, card.feed.last_offered})
    if to in others:
        found.append(Reason(ReasonCode.MOVE_MERGES, {"day": to.isoformat()}))
    earlier = max((day for day in others if day < to), default=None)
    later = min((day for day in others if day > to), default=None)
    for name, gap in (
        ("before", None if earlier is None else (to - earlier).days),
        ("after", None if later is None else (later - to).days),
    ):
        usual, own = card.feed.mean_days, card.feed.gaps_days
        far = max(FAR_SHARE * usual, 0.5)
        if gap is not None and not min(*own, usual - far) <= gap <= max(*own, usual + far):
            found.append(Reason(ReasonCode(f"move.gap_{name}"), {"gap": Measure(gap, "d"), "usual": Measure(usual, "d")}))
    for product in sorted({item.product.name for items in before.dusting.values() for item in items}):
        was, becomes = (_next_day(days, product) for days in (before, after))
        if was is not None and becomes is not None and was != becomes:
            found.append(Reason(ReasonCode.MOVE_POWDER, {"product": product, "was": was.isoformat(), "day": becomes.isoformat()}))
    return found


def _next_day(days: Days, product: str) -> date | None:
    """Return the first feed that carries the product; None where every feed carries it, or none does."""
    carrying = [day for day, items in sorted(days.dusting.items()) if any(item.product.name == product for item in items)]
    return None if len(carrying) == len(days.feeds) or not carrying else carrying[0]
