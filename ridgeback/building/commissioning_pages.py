"""The page of a test run: what to read where, what was read, which thermostats were seen, what to change; and the signature."""

from typing import Any, Final

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.translation import gettext as _
from django.views.decorators.http import require_http_methods

from husbandry.assessment import Measure, Quantity, Verdict
from husbandry.climate.calibrate import places_of
from husbandry.design import mounting
from husbandry.design.mounting import Way
from husbandry.inputs.climate_case import enclosure_case
from husbandry.plan.editing import apply
from husbandry.plan.habitat import HabitatPlan
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.building.actions.see_thermostat import see_thermostat
from ridgeback.building.commissioning import ENDS, PASSES, Checked, Run, run_of
from ridgeback.building.pages import going
from ridgeback.building.reading import BuildState
from ridgeback.daybook.writing import intent_of
from ridgeback.drawing.marks import mark
from ridgeback.language import buildwords, dates, names, wording
from ridgeback.language.placewords import PLACE_NAMES
from ridgeback.planner import readings, revisions
from ridgeback.planner.readings import READ_BY
from ridgeback.rooms.models import Habitat
from ridgeback.units import KeeperUnits

SPOT: Final = "basking_surface"
LEAST_K: Final = 0.3  # that a change has to make to be one
OFF: Final = (Verdict.OUTSIDE, Verdict.DANGEROUS)


@require_http_methods(["GET", "POST"])
def test_run(request: HttpRequest, pk: int) -> HttpResponse:
    """The test run of a build; posted, a thermostat was seen switching, or was not after all."""
    habitat, built = going(request, pk)
    run = run_of(built, habitat)
    if request.method == "POST":
        path, end = request.POST.get("path", ""), request.POST.get("end", "")
        if path not in {one.path for one in run.protocol.switches} or end not in ENDS:
            raise Http404
        see_thermostat(built.build, intent_of(request), f"{path}-{end}", seen=request.POST.get("do") != "undo")
        return redirect("building:test", pk)
    return render(request, "building/test.html", context_of(run, built, habitat, units_of(request.user)))


def context_of(run: Run, built: BuildState, habitat: Habitat, units: KeeperUnits) -> dict[str, Any]:
    """A test run in words."""
    return {
        "habitat": habitat,
        "build": built.build,
        "signed": built.signed,
        "run": run,
        "since": None if run.since is None else timezone.localtime(run.since),
        "season": names.SEASONS[run.protocol.season],
        "checks": [_check(one, units) for one in run.checks],
        "missing": sorted({str(buildwords.INSTRUMENTS[READ_BY[one.point.place]]) for one in run.checks if not one.has_instrument}),
        "switches": [
            {
                "path": one.path,
                "name": _heater(built, one.path),
                "kind": one.kind,
                "on": units.say(Measure(one.on_c, "degC")),
                "off": units.say(Measure(one.off_c, "degC")),
                "ends": [{"end": end, "seen": run.seen.get(f"{one.path}-{end}")} for end in ENDS],
            }
            for one in run.protocol.switches
        ],
        "logged": round(run.logged_h),
        "lacking": lacking(run, built),
        "ways": _ways(run, built, habitat, units),
        "taught": _taught(run, built),
        "rest_off": any(one.point.key != SPOT for one in run.failing),
        "shelled": revisions.profile_of(habitat).body.form == "tortoise",
    }


def _heater(built: BuildState, path: str) -> str:
    return str(names.CHOICES["heater"][built.plan.heaters[int(path.removeprefix("heaters."))].kind])


def lacking(run: Run, built: BuildState) -> list[str]:
    """What keeps a test run from being passed, in words."""
    if run.since is None:
        return [_("It has not been switched on yet.")]
    found = []
    for words, checks in ((_("Outside its band: %(where)s."), run.failing), (_("Not read yet: %(where)s."), run.unread)):
        if checks:
            found.append(words % {"where": "; ".join(_where(one) for one in checks)})
    if run.unseen:
        ends = [_("%(name)s %(end)s") % {"name": _heater(built, path), "end": buildwords.ENDS[end]} for path, end in run.unseen]
        found.append(_("Not seen yet: %(ends)s.") % {"ends": "; ".join(ends)})
    if run.log_missing:
        found.append(
            _("%(n)s of 24 hours are logged: by a logger, or by hand at least every six hours.") % {"n": round(run.logged_h)}
        )
    return found


def _where(one: Checked) -> str:
    name = str(PLACE_NAMES[one.point.place])
    phase = str(buildwords.PHASES.get(one.point.phase, ""))
    return f"{name} {phase}".strip()


def _check(one: Checked, units: KeeperUnits) -> dict[str, Any]:
    point, taken = one.point, one.taken
    low, high = point.band.low, point.band.high
    if low is not None and high is not None:
        wanted = units.aimed(low, high, point.unit)
    elif high is not None:
        wanted = _("at most %(value)s") % {"value": units.say(Measure(high, point.unit))}
    else:
        wanted = _("at least %(value)s") % {"value": units.say(Measure(low or 0.0, point.unit))}
    row: dict[str, Any] = {
        "name": PLACE_NAMES[point.place],
        "phase": buildwords.PHASES.get(point.phase, ""),
        "instrument": buildwords.INSTRUMENTS[READ_BY[point.place]],
        "has_instrument": one.has_instrument,
        "wanted": wanted,
        "foretold": "" if point.foretold is None else units.say(Measure(point.foretold, point.unit)),
        "settled": dates.shown(timezone.localtime(one.settled_at), "D j M, H:i"),
        "settle": buildwords.hours_said(point.settle_h),
        "verdict": "" if one.verdict is None else one.verdict.value,
        "passes": one.passes,
        "early": one.early is not None and one.value is None,
        "strays": one.strays,
        "logged": ""
        if not one.logged_h
        else _("%(share)s %% of %(n)s logged hours in band") % {"share": round(100 * one.logged_share), "n": round(one.logged_h)},
    }
    if taken is None and one.logger is not None:
        row |= {"value": units.say(Measure(one.logger, point.unit)), "at": _("the last hours"), "by": _("a logger")}
        row["direction"] = point.direction(one.logger)
    if taken is not None:
        row |= readings.said(taken, units) | {"corrected": abs(taken.raw - taken.value) > 0.04, "by": taken.by}
        row["at"] = dates.shown(taken.at, "D j M, H:i")
        row["direction"] = point.direction(taken.value)
    return row


def _taught(run: Run, built: BuildState) -> bool:
    """Tell whether the plan has learnt from what was read."""
    last = max((one.taken.at.date() for one in run.checks if one.taken is not None), default=None)
    learnt = built.plan.calibration
    return last is None or (learnt is not None and learnt.on is not None and learnt.on >= last)


def _ways(run: Run, built: BuildState, habitat: Habitat, units: KeeperUnits) -> dict[str, Any] | None:
    """What would bring the basking place into its band, one change at a time, by a model that has learnt what was read.

    None where it stands in its band; `by_hand` where only a logger told of it, whose place nobody checked; `again` where what was
    read is so far off that it has to be read once more first.
    """
    off = next((one for one in run.failing if one.point.key == SPOT), None)
    if off is None:
        return None
    if off.taken is None:
        return {"by_hand": True, "rows": []}
    profile, today = revisions.profile_of(habitat), clock.today()
    taken = [one for check in run.checks for one in check.counted]
    learnt, uv = readings.learn(built.plan, profile, taken, today)
    known = places_of(enclosure_case(built.plan))
    teaching = [one for one in taken if readings.teaches(one, known)]
    if learnt is None or teaching.index(off.taken) in learnt.questioned:
        return {"again": True, "rows": []}
    document = apply(built.plan.model_dump(mode="json"), (readings.change(learnt, uv, len(taken), today),))
    found = mounting.ways(HabitatPlan.model_validate(document), profile, today)
    now_c = _spot_c(found[0], run) if found else None
    wanted = off.point.direction(off.taken.value)
    rows = []
    for way in found:
        spot_c = _spot_c(way, run)
        if way.refused is not None or not way.changes or spot_c is None or now_c is None or wanted * (now_c - spot_c) < LEAST_K:
            continue
        rows.append(
            {
                "said": wording.said(way.said, units).removesuffix("."),
                "spot": units.say(Measure(spot_c, "degC")),
                "in_band": off.point.verdict(spot_c) in PASSES,
                "price": [_price(one, units) for one in way.numbers if one.key != SPOT and one.verdict in OFF],
                "good": way.good,
            }
        )
    return {"again": False, "rows": rows}


def _spot_c(way: Way, run: Run) -> float | None:
    """What a way makes of the basking place in the season of the test."""
    return next((one.value for one in way.numbers if one.key == SPOT and one.season == run.protocol.season), None)


def _price(one: Quantity, units: KeeperUnits) -> str:
    shown = mark(one, units)
    return f"{shown.name} {wording.when(one)}: {shown.number} {shown.symbol}, {shown.verdict_text}"
