"""The round of a day: the habitats in walking order, quarantine last, each with what is due there."""

from dataclasses import dataclass
from datetime import date
from typing import Any

from ridgeback.accounts.models import Keeper
from ridgeback.language import rotawords
from ridgeback.planner import mapping
from ridgeback.rooms.models import Habitat, Residence
from ridgeback.rooms.residents import living_in
from ridgeback.rota.appointments import caution_of
from ridgeback.rota.board import FEED, Board, Turn, rank


@dataclass(frozen=True)
class Stop:
    """One habitat of the round: who lives there, what is due and what is done, and whether it stands apart until a day."""

    habitat: Habitat
    residents: list[tuple[Residence, str]]
    turns: list[Turn]
    apart_until: date | None

    @property
    def open(self) -> list[Turn]:
        return [turn for turn in self.turns if turn.open]

    @property
    def late(self) -> list[Turn]:
        return [turn for turn in self.turns if turn.state == "late"]

    @property
    def names(self) -> str:
        return ", ".join(name for _home, name in self.residents)


@dataclass(frozen=True)
class Round:
    """The stops of a room, and what is late in it: that is told first."""

    room: Any
    stops: list[Stop]

    @property
    def late(self) -> list[tuple[Habitat, Turn]]:
        return [(stop.habitat, turn) for stop in self.stops for turn in stop.late]

    @property
    def open(self) -> int:
        return sum(len(stop.open) for stop in self.stops)


def rounds(keeper: Keeper, today: date) -> tuple[list[Round], list[Habitat]]:
    """The rounds of the keeper's rooms on a day, and the habitats whose card cannot be worked out."""
    board = Board(keeper, today, today, 1).load()
    by_habitat: dict[int, list[Turn]] = {habitat.pk: [] for habitat in board.habitats}
    for turn in board.turns():
        if turn.day == today:
            by_habitat[turn.habitat.pk].append(turn)
    here = living_in(by_habitat)
    heads = Habitat.objects.filter(pk__in=list(by_habitat)).select_related("head").in_bulk()
    stops: dict[int, list[Stop]] = {}
    for habitat in board.habitats:
        until = _apart(heads[habitat.pk], today)
        turns = sorted(by_habitat[habitat.pk], key=lambda turn: (not turn.open, rank(turn.job)))
        lives = [(one, one.animal.called) for one in here[habitat.pk]]
        stops.setdefault(habitat.room_id, []).append(Stop(habitat, lives, turns, until))
    found = []
    for ordered in stops.values():
        ordered.sort(key=lambda stop: (stop.apart_until is not None, stop.habitat.place, stop.habitat.name, stop.habitat.pk))
        found.append(Round(ordered[0].habitat.room, ordered))
    return sorted(found, key=lambda one: one.room.name), board.broken


def _apart(habitat: Habitat, today: date) -> date | None:
    """Until when a habitat stands in quarantine, by its document alone: a round reads dozens of plans."""
    try:
        said = (mapping.document_of(habitat).get("upkeep") or {}).get("quarantine_until")
    except mapping.UnreadablePlanError:
        return None
    until = date.fromisoformat(said) if said else None
    return until if until is not None and until >= today else None


def words_of(turn: Turn) -> dict[str, Any]:
    """A turn as the page says it: its name, what it is made of, its caution, and what can become of it."""
    words = rotawords.job(turn.job)
    outcomes = ("eaten", "part", "refused", "skipped") if turn.job == FEED else ("done", "skipped")
    return {
        "turn": turn,
        "name": words.name,
        "caution": caution_of(turn.habitat, turn.job),
        "weighs": rotawords.key_of(turn.job) == "weigh",
        "outcomes": [(code, rotawords.OUTCOMES[code]) for code in outcomes],
        "became": "" if turn.open else rotawords.OUTCOMES.get(turn.state, ""),
    }
