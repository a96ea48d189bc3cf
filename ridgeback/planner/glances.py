"""What the list of habitats says of each, kept with the version it was worked out for.

A change of the plan makes it anew at once. That something was written down, that a day has passed or the program has changed does
not make anybody wait: as many as there is time for are made anew each time the list is looked at, what was written down first.
"""

import logging
import time
from datetime import date
from typing import Any, Final

from django.template.loader import render_to_string
from django.utils.translation import get_language

from ridgeback import clock, made_by
from ridgeback.accounts.models import Keeper
from ridgeback.drawing.marks import Mark, mark
from ridgeback.language import wording
from ridgeback.planner import bench, growing, mapping
from ridgeback.planner.models import Glance
from ridgeback.planner.view import View
from ridgeback.rooms.access import habitats_to_see
from ridgeback.rooms.models import Habitat
from ridgeback.units import KeeperUnits

logger = logging.getLogger(__name__)

SHOWN: Final = ("basking_surface", "cool_air", "uv_back", "cool_humidity")
BUDGET_S: Final = 0.12  # for what is only a day old
CHUNK: Final = 25  # read at a time
Said = dict[str, Any]


def of_habitats(keeper: Keeper, habitats: list[Habitat], units: KeeperUnits) -> dict[int, Said]:
    """What the list says of each habitat in a keeper's units, by its key; a constant number of queries where all is known."""
    today = clock.today()
    kept = {item.habitat_id: item for item in Glance.objects.filter(habitat__in=habitats, units=_words_of(units))}
    found: dict[int, Said] = {}
    late: list[tuple[bool, date, int]] = []
    wanted: list[int] = []
    for habitat in habitats:
        item = kept.get(habitat.pk)
        if item is None or item.version != habitat.version:
            wanted.append(habitat.pk)
            continue
        found[habitat.pk] = item.document
        if (item.logged, item.day, item.made_by) != (habitat.logged, today, made_by.program()):
            late.append((item.logged == habitat.logged, item.day, habitat.pk))
    order = [*wanted, *(pk for _same_log, _day, pk in sorted(late))]
    return found | _made(keeper, order, len(wanted), units, today)


def _made(keeper: Keeper, order: list[int], needed: int, units: KeeperUnits, today: date) -> dict[int, Said]:
    """Work out the first `needed` of them, and of the others as many as there is time for."""
    if not order:
        return {}
    begun, found, rows = time.monotonic(), dict[int, Said](), list[Glance]()
    for start in range(0, len(order), CHUNK):
        if start >= needed and time.monotonic() - begun > BUDGET_S:
            break
        wanted = habitats_to_see(keeper).defer("head__profile__document").filter(pk__in=order[start : start + CHUNK])
        full = {habitat.pk: habitat for habitat in wanted}
        growing.fetch(list(full.values()))
        for index, pk in enumerate(order[start : start + CHUNK], start=start):
            if index >= needed and time.monotonic() - begun > BUDGET_S:
                break
            if pk not in full:
                continue
            habitat = full[pk]
            found[pk] = said(habitat, units, today)
            row = {"version": habitat.version, "logged": habitat.logged, "day": today, "made_by": made_by.program()}
            rows.append(Glance(habitat=habitat, units=_words_of(units), document=found[pk], **row))
    fields = ["version", "logged", "day", "made_by", "document"]
    Glance.objects.bulk_create(rows, update_conflicts=True, unique_fields=["habitat", "units"], update_fields=fields)
    return found


def _words_of(units: KeeperUnits) -> str:
    """What a kept row's words depend on: its keeper's units and the language."""
    return f"{units} {get_language()}"


def said(habitat: Habitat, units: KeeperUnits, today: date) -> Said:
    """Work out what is said of one habitat; one that cannot be worked out says just that."""
    try:
        found, marks = _said(habitat, units, today)
    except Exception:  # whatever is wrong with this one, the others are shown
        logger.exception("habitat %s cannot be worked out", habitat.pk)
        found, marks = {"broken": True}, []
    page = render_to_string("rooms/_glance.html", {"habitat": habitat, "said": found, "marks": marks})
    return {"broken": "broken" in found, "html": page}


def _said(habitat: Habitat, units: KeeperUnits, today: date) -> tuple[Said, list[Mark]]:
    plan = mapping.plan_of(habitat)
    profile, found = bench.assessed(habitat, plan, today, View(), bench.AT_A_GLANCE)
    chosen = [
        item for item in found.quantities if item.key in SHOWN and item.season in ("", "winter") and item.phase in ("", "day")
    ]
    found_marks = [mark(item, units) for item in chosen]
    return {
        "common": profile.common,
        "stage": str(bench.stage(plan, found, profile)["name"]),
        "size": bench.size(plan, units),
        "findings": len(found.findings),
        "worst": found.findings[0].severity.value if found.findings else "good",
        "first": wording.finding(found.findings[0], units) if found.findings else "",
    }, found_marks
