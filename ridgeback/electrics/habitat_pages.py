"""One habitat's electricity and water: its leads and holes, what a second thermostat is worth, what the mister reaches."""

from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET

from husbandry.assessment import Measure
from husbandry.design.second_thermostat import HottestDay, second_thermostat
from husbandry.plan.habitat import HabitatPlan
from husbandry.wiring.cables import Lead, leads
from husbandry.wiring.nozzles import PUMP_BAR, PUMP_G_MIN, spray
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.drawing import sprayed
from ridgeback.electrics import reading
from ridgeback.language import names, wirewords
from ridgeback.planner import revisions
from ridgeback.rooms.access import habitat_or_404
from ridgeback.units import KeeperUnits, written

HOLE_MM = "16"
PLUG_MM = "40"
STALE_DAYS = 10  # that water stands in a reservoir at the longest (practice)


@require_GET
def habitat(request: HttpRequest, pk: int) -> HttpResponse:
    """The leads of one habitat, its thermostats' worth, its mister."""
    where, units = habitat_or_404(request, pk), units_of(request.user)
    wired = reading.read(where.room, american=units.temperature == "degF")
    key = str(pk)
    if key not in wired.plans:  # set aside
        raise Http404
    plan = wired.plans[key]
    called = {one.key: wirewords.kind_of(one) for one in wired.rooms[key]}
    strips = {one.name: one for one in wired.wiring.strips}
    feed = wired.wiring.fed(key)
    found = leads(plan, wired.rooms[key], feed, strips)
    context = {
        "habitat": where,
        "leads": [_lead(plan, lead, called, feed.plugs, units) for lead in found],
        "holes": sum(lead.hole is not None and lead.hole.drilled for lead in found),
        "hole_mm": HOLE_MM,
        "plug_mm": PLUG_MM,
        "worth": [
            {
                "name": called[one.path],
                "usual": _heat(one.usual, units),
                "stuck": _heat(one.stuck, units),
                "held": _heat(one.held, units),
                "second": units.say(Measure(one.second_c, "degC")),
                "ceiling": _heat(one.ceiling, units),
                "saves": one.saves,
                "burns": one.burns,
            }
            for one in second_thermostat(plan, revisions.profile_of(where), clock.today())
        ],
        "spray": _spray(plan, units),
        "misted_blind": plan.mister is None and any(one.times for one in (plan.misting, plan.misting.of("winter"))),
    }
    return render(request, "electrics/habitat.html", context)


def _heat(heat: HottestDay, units: KeeperUnits) -> str:
    """The basking place and the air of the warm end, in words."""
    return _("%(surface)s on the basking place and %(air)s in the air") % {
        "surface": units.say(Measure(heat.surface_c, "degC")),
        "air": units.say(Measure(heat.air_c, "degC")),
    }


def _lead(plan: HabitatPlan, lead: Lead, called: dict[str, str], plugs: Any, units: KeeperUnits) -> dict[str, Any]:
    plug = plugs.get(lead.key)
    along = units.say(Measure(lead.hole.along_m, "m")) if lead.hole is not None else ""
    height = units.say(Measure(lead.hole.height_m, "m")) if lead.hole is not None else ""
    name = called[lead.key]
    return {
        "name": _("probe of the %(name)s") % {"name": name} if lead.probe else name,
        "strip": "" if lead.probe else plug.strip if plug is not None else "",
        "probe": lead.probe,
        "lies": ""
        if not lead.probe
        else str(names.CHOICES["probe"][plan.heaters[int(lead.key.removeprefix("heaters."))].thermostat.probe]),
        "hole": wirewords.hole_of(lead.hole, along, height),
        "length": units.say(Measure(lead.length_m, "m")),
        "loop": lead.loop,
        "troubles": wirewords.troubles_of(lead, called),
    }


def _spray(plan: HabitatPlan, units: KeeperUnits) -> dict[str, Any] | None:
    found = spray(plan)
    if found is None or plan.mister is None:
        return None
    pump_g_min = plan.mister.pump_g_min or PUMP_G_MIN
    return {
        "drawn": sprayed.draw(plan.enclosure.length_m, plan.enclosure.width_m, found),
        "places": [(units.say(Measure(x_m, "m")), units.say(Measure(y_m, "m"))) for x_m, y_m in found.places],
        "radius": units.say(Measure(found.radius_m, "m")),
        "angle": written(plan.mister.cone_deg),
        "reached": f"{100 * found.reached:.0f}",
        "twice": f"{100 * found.twice:.0f}",
        "dry": found.reached < 0.6,
        "season": str(names.SEASONS[found.season]),
        "seconds": ", ".join(f"{each:.0f}" for each in found.seconds),
        "days": "" if found.reservoir_days is None else f"{found.reservoir_days:.0f}",
        "stale": found.reservoir_days is not None and found.reservoir_days > STALE_DAYS,
        "flow": written(found.flow_share * pump_g_min / 1000, ".2f"),
        "pump": written(pump_g_min / 1000),
        "pump_known": plan.mister.pump_g_min is not None,
        "too_many": found.flow_share > 1,
        "hose": units.say(Measure(found.hose_m, "m")),
        "loss": written(found.hose_bar, ".2f"),
        "bar": written(PUMP_BAR),
        "mm": written(found.floor_mm, ".1f"),
        "drain": found.drain,
    }
