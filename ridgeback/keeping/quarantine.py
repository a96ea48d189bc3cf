"""Quarantine: how long a kind stays apart, what has to be clean before it ends, and the decision to end it."""

from dataclasses import dataclass
from datetime import date, timedelta
from typing import Final

from django.utils.translation import gettext as _

from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from ridgeback.daybook import log
from ridgeback.daybook.models import Event
from ridgeback.daybook.writing import Intent, Refused, writing
from ridgeback.language.told import later
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.models import Habitat

PEACE_DAYS: Final = 7  # without handling after an animal has come (common practice, no source)


@dataclass(frozen=True)
class Apart:
    """A quarantine that lasts: its first and last day, the weeks its kind needs, and what was screened since it began."""

    since: date | None
    until: date
    weeks: tuple[float, float] | None
    tests: str
    screenings: tuple[Event, ...]

    @property
    def earliest(self) -> date | None:
        """The first day on which its kind's least weeks are over."""
        return None if self.since is None or self.weeks is None else self.since + timedelta(weeks=self.weeks[0])

    @property
    def clean(self) -> bool:
        """Tell whether something was screened, and all that was came back clean."""
        results = [one.payload.get("result", "waiting") for one in self.screenings]
        return bool(results) and all(result == "clean" for result in results)


def lasting(habitat: Habitat, plan: HabitatPlan, profile: Profile, today: date) -> Apart | None:
    """The quarantine of a habitat, None where there is none."""
    until = plan.upkeep.quarantine_until
    if until is None or until < today:
        return None
    since, health = plan.upkeep.arrived, profile.health
    weeks = None if health is None else (health.quarantine_weeks.low or 0.0, health.quarantine_weeks.high or 0.0)
    found = Event.objects.filter(habitat=habitat, kind=Event.Kind.SCREENED).order_by("at")
    screened = tuple(event for event in found if since is None or log.day_of(event.at) >= since)
    return Apart(since, until, weeks, "" if health is None else health.tests.value, screened)


def usual_end(profile: Profile, came: date) -> date | None:
    """The day on which a quarantine of a kind may end at the earliest that its book allows, counted from the day it came."""
    health = profile.health
    if health is None or health.quarantine_weeks.low is None:
        return None
    return came + timedelta(weeks=health.quarantine_weeks.low)


def begin(habitat_id: int, intent: Intent, came: date, until: date) -> Habitat:
    """Keep whoever came on a day apart until another, last day included; to be called inside the transaction of the arrival."""
    return _set(habitat_id, intent, "begun", until, {"arrived": came, "quarantine_until": until})


def change(habitat_id: int, intent: Intent, until: date, today: date) -> Habitat:
    """Make a quarantine longer or shorter. Raises AlreadyWritten, Refused for a day that is over."""
    if until < today:
        raise Refused("quarantine_over")
    with writing(intent, [habitat_id]):
        return _set(habitat_id, intent, "changed", until, {"quarantine_until": until})


def end(habitat_id: int, intent: Intent, today: date, note: str = "") -> Habitat:
    """End a quarantine by decision, today; written down with who decided. Raises AlreadyWritten, Refused where there is none."""
    with writing(intent, [habitat_id]) as habitats:
        until = mapping.plan_of(habitats[habitat_id]).upkeep.quarantine_until
        if until is None or until < today:
            raise Refused("no_quarantine")
        return _set(habitat_id, intent, "ended", today, {"quarantine_until": today - timedelta(days=1)}, note)


def _set(habitat_id: int, intent: Intent, what: str, day: date, changes: dict[str, date], note: str = "") -> Habitat:
    habitat = revisions.locked(habitat_id)
    plan = mapping.plan_of(habitat)
    upkeep = plan.upkeep.model_dump() | changes
    changed = HabitatPlan.model_validate(plan.model_dump() | {"upkeep": upkeep})
    payload = {"what": what, "until": day.isoformat()} | ({"note": note} if note else {})
    log.record(habitat, Event.Kind.QUARANTINE, intent.at, intent.author, **payload)
    habitat = revisions.locked(habitat_id)
    return revisions.save(habitat_id, changed, habitat.version, intent.author, intent.at, later(lambda: _("quarantine")))
