"""A room's electricity: what hangs where, what is wrong, what goes dark; changed a part at a time, and on paper."""

from typing import Any

from django.contrib import messages
from django.http import HttpRequest, HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_http_methods

from husbandry.assessment import Measure
from husbandry.wiring.consumers import CARRIES_W, Consumer
from husbandry.wiring.loads import SAFETY, Load, Trouble, circuit_loads, dark_without, faults, strip_loads
from husbandry.wiring.settings import Circuit, Wiring
from husbandry.wiring.spread import spread
from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook.writing import intent_of
from ridgeback.drawing.oneline import Branch, DrawnConsumer, Outlet, draw
from ridgeback.drawing.oneline import pages as oneline_pages
from ridgeback.electrics import forms, reading
from ridgeback.electrics.actions.keep_wiring import keep_wiring
from ridgeback.electrics.reading import Wired
from ridgeback.language import wirewords
from ridgeback.rooms.access import room_or_404
from ridgeback.rooms.models import Room
from ridgeback.units import KeeperUnits, written
from ridgeback.web import typed
from ridgeback.web.paper import printed

SPARE_ROWS = 1


@require_http_methods(["GET", "POST"])
def room(request: HttpRequest, pk: int) -> HttpResponse:
    """A room's electricity; posted, it is kept as typed, or with `spread` what is on no strip is spread over the strips."""
    where, units = room_or_404(request, pk), units_of(request.user)
    wired = reading.read(where, american=units.temperature == "degF")
    if request.method == "GET":
        return render(request, "electrics/room.html", _context(where, wired, wired.wiring, units, []))
    bound = forms.PostedWiring(request.POST, wired.rooms, units, wired.said)
    if bound.wiring is None:
        context = _context(where, wired, wired.wiring, units, bound.faults)
        return render(request, "electrics/room.html", context | _typed(request.POST, context), status=422)
    said = bound.wiring
    if request.POST.get("do") == "spread":
        said = spread(said, wired.rooms)
    keep_wiring(where.pk, intent_of(request), said, typed.whole(request.POST.get("version")) or 0)
    left = sum(one.what is Trouble.UNPLUGGED for one in faults(said, wired.rooms))
    if left and request.POST.get("do") == "spread":
        messages.warning(
            request, _("%(n)s found no place: no socket was free, or it would be too much. Add a strip.") % {"n": left}
        )
    return redirect("electrics:room", pk)


def _context(where: Room, wired: Wired, said: Wiring, units: KeeperUnits, wrong: list[str]) -> dict[str, Any]:
    found = faults(said, wired.rooms)
    unplugged = [one for one in found if one.what is Trouble.UNPLUGGED]
    return {
        "room": where,
        "version": wired.version,
        "wrong": wrong,
        "faults": [
            {"said": _said(fault, wired), "safety": fault.what in SAFETY} for fault in found if fault.what is not Trouble.UNPLUGGED
        ],
        "unplugged": len(unplugged),
        "drawn": draw(_branches(said, wired, units)),
        "dark": [_dark(name, said, wired) for name in (strip.name for strip in said.strips)],
        "volts": f"{said.volts:g}",
        "circuits": [_circuit(one) for one in said.circuits] + [_circuit(None)] * SPARE_ROWS,
        "strips": _strips(said, units),
        "strip_names": [one.name for one in said.strips],
        "homes": [_home(key, said, wired, units) for key in wired.habitats],
    }


def _typed(posted: QueryDict, shown: dict[str, Any]) -> dict[str, Any]:
    """The fields as they were typed, for a form that could not be kept."""

    def rows(names: tuple[str, ...]) -> list[dict[str, str]]:
        columns = [posted.getlist(name) for name in names]
        return [
            {name.partition("-")[2]: cell for name, cell in zip(names, row, strict=True)} for row in zip(*columns, strict=False)
        ]

    homes = []
    for home in shown["homes"]:
        if f"floor-{home['key']}" not in posted:
            homes.append(home)
            continue
        plugs = [
            row
            | {
                "strip": posted.get(f"on-{row['at']}", ""),
                "timer": f"timer-{row['at']}" in posted,
                "carries": posted.get(f"carries-{row['at']}", ""),
            }
            for row in home["rows"]
        ]
        sizes = {name: posted.get(f"{name}-{home['key']}", "") for name in ("floor", "away")}
        homes.append(home | sizes | {"rows": plugs})
    if "volts" not in posted:
        return {"homes": homes}
    return {
        "volts": posted.get("volts", ""),
        "circuits": rows(forms.CIRCUIT) or shown["circuits"],
        "strips": rows(forms.STRIP) or shown["strips"],
        "homes": homes,
    }


def _said(fault: Any, wired: Wired) -> str:
    return wirewords.said_of(fault, wired.habitats[fault.habitat].name if fault.habitat else "")


def _residual(circuit: Circuit) -> str:
    if circuit.residual_ma is None:
        return _("residual current: not known")
    return _("residual current %(ma)s mA") % {"ma": written(circuit.residual_ma)}


def _amps(value: float) -> str:
    return written(value, ".2f") if value < 1 else written(value, ".1f")


def _load(load: Load, limit: float) -> str:
    return _("%(amps)s of %(limit)s A, %(watts)s W") % {
        "amps": _amps(load.amps),
        "limit": written(limit),
        "watts": round(load.watts),
    }


def _branches(said: Wiring, wired: Wired, units: KeeperUnits) -> list[Branch]:
    strips, circuits = strip_loads(said, wired.rooms), circuit_loads(said, wired.rooms)
    return [
        Branch(
            circuit.name,
            _load(circuits[circuit.name], circuit.breaker_a),
            _residual(circuit),
            circuits[circuit.name].amps > circuit.breaker_a,
            [
                Outlet(
                    strip.name,
                    _load(strips[strip.name], strip.rated_a),
                    strips[strip.name].amps > strip.rated_a,
                    _fed(strip.name, said, wired, units),
                )
                for strip in said.strips
                if strip.circuit == circuit.name
            ],
        )
        for circuit in said.circuits
    ]


def _fed(strip: str, said: Wiring, wired: Wired, units: KeeperUnits) -> list[DrawnConsumer]:
    found = []
    for key, habitat in wired.habitats.items():
        for one in wired.rooms[key]:
            plug = said.fed(key).plugs.get(one.key)
            if plug is not None and plug.strip == strip:
                load = _("%(watts)s W, %(amps)s A") % {"watts": round(one.watts), "amps": _amps(one.amps(said.volts))}
                found.append(
                    DrawnConsumer(wirewords.kind_of(one), habitat.name, load, plug.timer, _thermostat(key, one, wired, units))
                )
    return found


def _thermostat(key: str, one: Consumer, wired: Wired, units: KeeperUnits) -> str:
    """The kind of a heater's thermostat and what it is set to."""
    if not one.control:
        return ""
    if one.key.startswith("heaters."):
        set_c = wired.plans[key].heaters[int(one.key.removeprefix("heaters."))].thermostat.set_c
        if set_c is not None:
            kind = str(wirewords.CONTROLS[one.control]).split(" ")[0]
            return _("%(kind)s, %(set)s") % {"kind": kind, "set": units.say(Measure(set_c, "degC"))}
    return str(wirewords.CONTROLS[one.control])


def _dark(strip: str, said: Wiring, wired: Wired) -> dict[str, Any]:
    """What goes dark with one strip."""
    rows = []
    for dark in dark_without(said, wired.rooms, strip):
        lost = ", ".join(wirewords.kind_of(one) for one in dark.lost)
        rows.append({"home": wired.habitats[dark.habitat].name, "lost": lost, "warmth": dark.all_warmth, "light": dark.all_light})
    return {"strip": strip, "rows": rows}


def _circuit(circuit: Circuit | None) -> dict[str, str]:
    if circuit is None:
        return {"name": "", "breaker": "", "residual": "", "other": ""}
    return {
        "name": circuit.name,
        "breaker": f"{circuit.breaker_a:g}",
        "residual": "" if circuit.residual_ma is None else f"{circuit.residual_ma:g}",
        "other": f"{circuit.other_w:g}" if circuit.other_w else "",
    }


def _strips(said: Wiring, units: KeeperUnits) -> list[dict[str, str]]:
    rows = [
        {
            "name": one.name,
            "was": one.name,
            "circuit": one.circuit,
            "rated": f"{one.rated_a:g}",
            "sockets": str(one.sockets),
            "up": " ".join(units.number(one.up_m, "m", typed=True)),
        }
        for one in said.strips
    ]
    return rows + [dict.fromkeys(("name", "was", "circuit", "rated", "sockets", "up"), "")] * SPARE_ROWS


def _home(key: str, said: Wiring, wired: Wired, units: KeeperUnits) -> dict[str, Any]:
    """One habitat in the form."""
    feed = said.fed(key)
    rows = []
    for one in wired.rooms[key]:
        plug = feed.plugs.get(one.key)
        rows.append(
            {
                "at": f"{key}-{one.key}",
                "name": wirewords.kind_of(one),
                "watts": round(one.watts),
                "strip": "" if plug is None else plug.strip,
                "timer": plug is not None and plug.timer,
                "control": one.control and str(wirewords.CONTROLS[one.control]),
                "carries": "" if plug is None or plug.carries_w is None else f"{plug.carries_w:g}",
                "usual": f"{CARRIES_W[one.control]:g}" if one.control else "",
            }
        )
    return {
        "key": key,
        "name": wired.habitats[key].name,
        "pk": wired.habitats[key].pk,
        "rows": rows,
        "floor": " ".join(units.number(feed.floor_m, "m", typed=True)),
        "away": " ".join(units.number(feed.away_m, "m", typed=True)),
    }


@require_GET
def on_paper(request: HttpRequest, pk: int) -> HttpResponse:
    """The room's electricity on paper: the diagram, what to change, what goes dark."""
    where, units = room_or_404(request, pk), units_of(request.user)
    wired = reading.read(where, american=units.temperature == "degF")
    sheets = [draw(branches) for branches in oneline_pages(_branches(wired.wiring, wired, units))]
    context = _context(where, wired, wired.wiring, units, []) | {"made": timezone.localtime(clock.now()), "sheets": sheets}
    return printed("electrics/paper.html", context, f"electrics-{pk}")
