"""The pages of a build: what can be done now, by thumb; what cures; what comes; why the animal waits."""

import re
from datetime import datetime, time, timedelta
from typing import Any, Final

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods, require_POST
from pydantic import ValidationError

from husbandry.build.calendar import timetable
from husbandry.build.graph import CircleError, longest
from husbandry.build.kinds import ANIMAL_IN, TEST_RUN, waits
from husbandry.build.moving_day import moving_day
from husbandry.build.settings import BuildSettings
from husbandry.build.standing import Lock, Locked
from husbandry.build.work import Step, panels, work
from husbandry.numerals import NumberError
from husbandry.plan.habitat import HabitatPlan
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.building import forms, reading
from ridgeback.building.actions import begin_build, do_step, end_build
from ridgeback.building.commissioning import run_of
from ridgeback.building.models import Build
from ridgeback.building.reading import BuildState
from ridgeback.daybook.writing import intent_of
from ridgeback.drawing.timetable import StepBar, draw
from ridgeback.language import buildwords, dates
from ridgeback.language.told import later
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.access import habitat_or_404
from ridgeback.rooms.models import Habitat
from ridgeback.rooms.residents import living_in
from ridgeback.rota.ical import CalendarEntry, calendar
from ridgeback.units import KeeperUnits
from ridgeback.web import typed
from ridgeback.web.paper import printed
from ridgeback.web.requests import download

SOON: Final = timedelta(days=1)
NOON: Final = time(12)


def _when(at: datetime) -> str:
    return dates.shown(at, "D j M, H:i")


@require_http_methods(["GET", "POST"])
def build(request: HttpRequest, pk: int) -> HttpResponse:
    """A habitat's build: how it stands, or how one begins."""
    habitat, units = habitat_or_404(request, pk), units_of(request.user)
    begun = reading.open_build(habitat)
    if begun is None:
        return _begin(request, habitat)
    try:
        built = reading.read(begun, habitat)
    except CircleError as error:
        return render(request, "building/circle.html", {"habitat": habitat, "names": error.names, "build": begun}, status=409)
    return render(request, "building/build.html", _context(built, habitat, units))


def _begin(request: HttpRequest, habitat: Habitat) -> HttpResponse:
    """What a build would come to, and the button that begins it."""
    plan = mapping.plan_of(habitat)
    form = forms.HowForm(request.POST or None, BuildSettings(), carved=bool(panels(plan)))
    lived_in = bool(living_in([habitat.pk])[habitat.pk])
    # The return key says no more than what was typed: the days are reckoned anew, and nothing begins.
    if request.method == "POST" and form.is_valid() and form.settings is not None and "again" in request.POST:
        again = request.POST.get("again") == "1"
        what = later(lambda: _("a rebuild begins") if again else _("the build begins"))
        begin_build.begin_build(habitat.pk, intent_of(request), form.settings, again=again, what=what)
        return redirect("building:build", habitat.pk)
    said = form.settings or BuildSettings()
    found = reading.steps_of(plan, said, None)
    table = timetable(found, said, reading.local(clock.now()))
    before = list(Build.objects.filter(habitat=habitat, ended_at__isnull=False)[:5])
    context = {
        "habitat": habitat,
        "form": form,
        "steps": [buildwords.name_of(step) for step in found.steps],
        "count": len(found.steps),
        "work": buildwords.minutes_said(sum(step.minutes for step in found.steps)),
        "days": buildwords.hours_said(round(longest(found).hours)),
        "moves_in": _when(table.moves_in),
        "before": before,
        "lived_in": lived_in,
    }
    return render(request, "building/begin.html", context, status=422 if form.errors else 200)


def _context(built: BuildState, habitat: Habitat, units: KeeperUnits) -> dict[str, Any]:
    deciding = set(built.times.deciding)
    names = {step.key: buildwords.name_of(step) for step in built.found.steps}
    rows = {step.key: _row(built, step, names, units) for step in built.found.steps}
    later = [
        rows[one.key]
        for one in built.times.planned
        if not one.done and one.key not in built.now.open and one.key not in built.now.curing and one.key != ANIMAL_IN
    ]
    return {
        "habitat": habitat,
        "build": built.build,
        "signed": built.signed,
        "open": [rows[key] for key in sorted(built.now.open, key=lambda key: built.now.slack_h[key])],
        "curing": [
            {"name": names[key], "until": _when(until), "wait": _wait(built, key)}
            for key, until in sorted(built.now.curing.items(), key=lambda one: one[1])
        ],
        "later": later,
        "done": [
            {"key": key, "name": names[key], "row": row, "at": _when(reading.local(row.at))}
            for key, row in sorted(built.done.items(), key=lambda one: one[1].at, reverse=True)
        ],
        "changed": [names[key] for key in built.changed],
        "locks": _locks(built, names),
        "nothing_new": built.build.before is not None and len(built.found.steps) == 1,
        "may_move_in": built.now.may_move_in,
        "moves_in": _when(built.times.moves_in),
        "drawn": draw(_bars(built, names, deciding), reading.local(clock.now()), built.times.moves_in),
        "test_ran": TEST_RUN in built.done and TEST_RUN not in built.now.curing,
        "has_test": any(step.key == TEST_RUN for step in built.found.steps),
        "moment": timezone.localtime(clock.now()),
        "moving": moving_words(habitat),
    }


def _locks(built: BuildState, names: dict[str, str]) -> list[str]:
    """Why the animal stays out: what harms first, then what cures, the test, and in one line what is not done."""
    order = {Lock.CURING: 0, Lock.QUARANTINE: 1, Lock.UNTESTED: 2}
    waiting = sorted((lock for lock in built.now.locks if lock.why in order), key=lambda lock: (not lock.fumes, order[lock.why]))
    undone = [names[lock.key] for lock in built.now.locks if lock.why is Lock.UNDONE]
    said = [_lock(lock, built, names) for lock in waiting]
    if len(undone) == 1:
        said.append(_lock(next(lock for lock in built.now.locks if lock.why is Lock.UNDONE), built, names))
    elif undone:
        said.append(_("%(n)s steps are not done, the next: %(name)s.") % {"n": len(undone), "name": undone[0]})
    return said


def _lock(lock: Locked, built: BuildState, names: dict[str, str]) -> str:
    told = {"step": names.get(lock.key, ""), "until": "" if lock.until is None else _when(lock.until), "wait": ""}
    if lock.why is Lock.CURING:
        told["wait"] = _wait(built, lock.key)
    return str(buildwords.LOCKS[lock.why]) % told


def _wait(built: BuildState, key: str) -> str:
    step = built.found[key]
    return str(buildwords.WAITS.get(step.wait, _("it waits")))


def _bars(built: BuildState, names: dict[str, str], deciding: set[str]) -> list[StepBar]:
    return [StepBar(names[one.key], one.begins, one.worked, one.over, one.done, one.key in deciding) for one in built.times.planned]


def _row(built: BuildState, step: Step, names: dict[str, str], units: KeeperUnits) -> dict[str, Any]:
    words, about = buildwords.STEPS.get(step.kind), step.about
    planned = built.times[step.key]
    held = [names[key] for key in built.now.holds.get(step.key, ())]
    slack = built.now.slack_h[step.key]
    return {
        "key": step.key,
        "name": names[step.key],
        "how": words.how if words is not None and not step.own else "",
        "minutes": buildwords.minutes_said(step.minutes) if step.minutes else "",
        "wait": buildwords.hours_said(step.wait_h) if step.wait_h else "",
        "wait_name": buildwords.WAITS.get(step.wait, _("it waits")),
        "amounts": [buildwords.amount_of(amount, units) for amount in step.amounts],
        "tools": [buildwords.TOOLS[tool] for tool in (about.tools if about else ())],
        "cautions": [buildwords.CAUTIONS[caution] for caution in (about.cautions if about else ())],
        "begins": _when(planned.begins),
        "late": planned.begins < reading.local(clock.now()) - SOON,
        "over": _when(planned.over),
        "decides": slack < SOON.total_seconds() / 3600,
        "slack": buildwords.hours_said(round(slack)) if slack >= 1 else "",
        "held": held[:4],
        "more_held": max(len(held) - 4, 0),
        "beside": [names[key] for key in built.times.beside(step.key)][:3] if step.wait_h >= 12 else [],
    }


def moving_words(habitat: Habitat) -> list[tuple[str, str]]:
    """Moving day: when, and what to do."""
    found = []
    for moment in moving_day(revisions.profile_of(habitat)):
        if moment.hours < -1:
            when = _("%(time)s before") % {"time": buildwords.hours_said(-moment.hours)}
        elif moment.hours < 1:
            when = _("that day")
        else:
            when = _("%(time)s after") % {"time": buildwords.hours_said(moment.hours)}
        found.append((when, str(buildwords.MOVING[moment.what])))
    return found


def going(request: HttpRequest, pk: int) -> tuple[Habitat, BuildState]:
    habitat = habitat_or_404(request, pk)
    begun = reading.open_build(habitat)
    if begun is None:
        raise Http404
    try:
        return habitat, reading.read(begun, habitat)
    except CircleError:
        raise Http404 from None


@require_POST
def done(request: HttpRequest, pk: int) -> HttpResponse:
    """A step is done: now, or at the moment that was typed."""
    habitat, built = going(request, pk)
    key = request.POST.get("step", "")
    step = next((one for one in built.found.steps if one.key == key), None)
    if step is None:
        raise Http404
    if request.POST.get("do") == "undo":
        do_step.undo_step(
            built.build,
            intent_of(request),
            key,
            later(lambda: _("%(step)s: not done after all") % {"step": buildwords.name_of(step)}),
        )
        return redirect("building:build", pk)
    name = later(lambda: buildwords.name_of(step))
    try:
        at = _moment(request)
    except NumberError:
        messages.error(request, _("That day or time cannot be read; nothing was written down."))
        return redirect("building:build", pk)
    do_step.do_step(built.build, intent_of(request), step, at, request.POST.get("note", "").strip(), name)
    if key not in built.now.open and key not in built.changed:
        messages.warning(
            request, _("%(step)s was done before its turn: look whether what comes before it still can be.") % {"step": name}
        )
    return redirect("building:build", habitat.pk)


def _moment(request: HttpRequest) -> datetime:
    """When it was done: now, unless a day or a time was typed. Raises NumberError."""
    day_text, time_text = request.POST.get("day", "").strip(), request.POST.get("time", "").strip()
    now = timezone.localtime(clock.now())
    if not day_text and not time_text:
        return now
    day = typed.day(day_text) if day_text else now.date()
    at = typed.clock_time(time_text) if time_text else now.time() if day == now.date() else NOON
    return timezone.make_aware(datetime.combine(day, at))


@require_http_methods(["GET", "POST"])
def how(request: HttpRequest, pk: int) -> HttpResponse:
    """How it is built: the keeper's days, waits and own steps."""
    habitat = habitat_or_404(request, pk)
    begun = reading.open_build(habitat)
    if begun is None:
        raise Http404
    said = BuildSettings.model_validate(begun.settings)
    plan = mapping.plan_of(habitat)
    here, usual = _waits(plan, said), _waits(plan, said.model_copy(update={"waits": {}}))
    form = forms.HowForm(request.POST or None, said, carved=bool(panels(plan)))
    faults: list[str] = []
    if request.method == "POST" and form.is_valid() and form.settings is not None:
        changed, faults = forms.changed_waits(request.POST, said, usual)
        own = forms.own_steps(request.POST)
        try:
            wanted = BuildSettings.model_validate(form.settings.model_dump() | {"waits": changed, "own": own})
            reading.steps_of(plan, wanted, None)
        except ValidationError as error:
            faults += [forms.said_of(item) for item in error.errors(include_url=False)]
        except CircleError as error:
            faults.append(
                _("These come after one another in a circle: %(names)s.")
                % {"names": " → ".join(_known(name) for name in error.names)}
            )
        else:
            if not faults:
                version = typed.whole(request.POST.get("version")) or 0
                begin_build.settle_build(begun, intent_of(request), wanted, version)
                return redirect("building:build", pk)
    context = {
        "habitat": habitat,
        "build": begun,
        "form": form,
        "faults": faults,
        "waits": _waits_shown(request.POST, here, usual),
        "own": _own_shown(said),
        "kinds": forms.kinds_said() + [(one.name, one.name) for one in said.own],
    }
    return render(request, "building/how.html", context, status=422 if form.errors or faults else 200)


def _waits_shown(posted: QueryDict, here: dict[str, float], usual: dict[str, float]) -> list[dict[str, Any]]:
    """Each wait as the page asks for it: what was typed, or what it is `here`, beside the usual and the least, in hours."""
    return [
        {
            "key": key,
            "name": str(buildwords.WAITS[key]).capitalize(),
            "value": posted.get(f"wait-{key}", buildwords.hours_said(here.get(key, hours))),
            "usual": buildwords.hours_said(hours),
            "least": buildwords.hours_said(waits()[key].least_h) if waits()[key].least_h else "",
        }
        for key, hours in usual.items()
    ]


def _own_shown(said: BuildSettings) -> list[dict[str, str]]:
    """The keeper's own steps, and empty lines for more."""
    own = [
        {
            "name": one.name,
            "minutes": f"{one.minutes:g}",
            "wait": buildwords.hours_said(one.wait_h) if one.wait_h else "",
            "after": one.after[0] if one.after else "",
            "before": one.before[0] if one.before else "",
        }
        for one in said.own
    ]
    return own + [{"name": "", "minutes": "", "wait": "", "after": "", "before": ""}] * forms.OWN_ROWS


def _waits(plan: HabitatPlan, said: BuildSettings) -> dict[str, float]:
    """The waits that a build has, in hours, in the order of its steps."""
    return {step.wait: step.wait_h for step in work(plan, said) if step.wait}


def _known(key: str) -> str:
    """The name of a step by its key; one of the keeper's own is called what it is called."""
    kind = re.sub(r"-\d+$", "", key)
    return str(buildwords.STEPS[kind].name) if kind in buildwords.STEPS else key


@require_POST
def end(request: HttpRequest, pk: int) -> HttpResponse:
    """The test is signed, the animal moves in, or the build is given up."""
    habitat, built = going(request, pk)
    intent, do = intent_of(request), request.POST.get("do", "")
    if do == "sign":
        name, note = request.POST.get("name", ""), request.POST.get("note", "")
        complete = run_of(built, habitat).complete
        what = later(lambda: _("test run signed by %(name)s") % {"name": name.strip()[:80]})
        end_build.sign_test(built.build, intent, name, note, what, complete=complete)
    elif do == "in":
        end_build.move_in(built.build, intent, request.POST.get("reason", ""), later(lambda: _("the animal moves in")))
        messages.success(request, _("It is in. A week of peace now; the first meal stands below moving day in its daybook."))
        return redirect("keeping:now", pk)
    elif not do:
        messages.info(request, _("Nothing was done: press the button that says what you want."))
    elif do == "give-up":
        end_build.give_up(built.build, intent, later(lambda: _("the build is given up")))
    else:
        raise Http404
    return redirect("building:build", pk)


@require_GET
def ics(request: HttpRequest, pk: int) -> HttpResponse:
    """What is still to do, each at its time after what cures before it, as an iCalendar file."""
    habitat, built = going(request, pk)
    entries = []
    for one in built.times.planned:
        if one.done or one.worked == one.begins:
            continue
        step = built.found[one.key]
        words = buildwords.STEPS.get(step.kind)
        cautions = step.about.cautions if step.about is not None else ()
        told = [str(words.how) if words is not None else "", *(str(buildwords.CAUTIONS[caution]) for caution in cautions)]
        uid, summary = f"build-{built.build.pk}-{one.key}", f"{habitat.name}: {buildwords.name_of(step)}"
        text = "\n".join(line for line in told if line)
        entries.append(CalendarEntry(uid, one.begins.date(), summary, text, one.begins.time(), minutes=step.minutes))
    data = calendar(_("Build of %(name)s") % {"name": habitat.name}, entries, clock.now())
    return download(data, "text/calendar; charset=utf-8", habitat.name, "build.ics")


@require_GET
def on_paper(request: HttpRequest, pk: int) -> HttpResponse:
    """The build as a list to tick with wet hands."""
    habitat, built = going(request, pk)
    units = units_of(request.user)
    names = {step.key: buildwords.name_of(step) for step in built.found.steps}
    context = _context(built, habitat, units) | {
        "rows": [_row(built, built.found[one.key], names, units) | {"ticked": one.done} for one in built.times.planned],
        "made": timezone.localtime(clock.now()),
    }
    return printed("building/paper.html", context, f"build-{pk}")
