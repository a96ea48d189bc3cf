"""A file of readings brought in: what each column is, asked once for files of a shape; then taken in the background."""

from typing import Any, Final

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from django.views.decorators.http import require_http_methods
from pydantic import ValidationError

from ridgeback import clock
from ridgeback.daybook.writing import intent_of, may_write
from ridgeback.metering import charts
from ridgeback.metering.access import file_or_404
from ridgeback.metering.actions import table_files
from ridgeback.rooms.access import keeper_of, room_or_404
from ridgeback.rooms.models import Room
from ridgeback.series import tables
from ridgeback.series.filing import Said
from ridgeback.series.models import Channel, TableFile, TableMapping
from ridgeback.series.places import PLACES
from ridgeback.series.tables import OpenedTable, TableError
from ridgeback.uploads import arriving
from ridgeback.uploads.reading import opened
from ridgeback.web import typed

PROBLEMS: Final = {
    "no_text": gettext_lazy("That is no text: a table is wanted as loggers export it (CSV), not as a spreadsheet or a picture."),
    "no_rows": gettext_lazy("There are no rows in it."),
    "no_moment": gettext_lazy("No column of it holds dates with times."),
    "no_values": gettext_lazy("No column of it holds readings."),
    "too_wide": gettext_lazy("It has too many columns for a logger's file."),
    "went_wrong": gettext_lazy("Something went wrong in Ridgeback; it stands in the server's log. Bring the file again."),
    "no_file": gettext_lazy("Choose a file first."),
    "too_long": gettext_lazy("It is larger than 60 MB; export it in parts."),
}
REFUSALS: Final = {
    "no_channel": gettext_lazy("of nothing that is set up here"),
    "cannot_be": gettext_lazy("beyond what can be read there: was another unit meant?"),
    "future": gettext_lazy("from the future: the logger's clock is ahead"),
    "clock_unset": gettext_lazy("from before 2010: the logger's clock was never set"),
    "ended": gettext_lazy("after that channel was ended"),
    "other_unit": gettext_lazy("in a unit that does not fit there"),
    "no_moment": gettext_lazy("without a date that can be read"),
    "no_animal": gettext_lazy("of an animal that is not known"),
    "weight_slip": gettext_lazy("three times the last weighing, or a third of it"),
}
ORDERS: Final = {
    "dm": gettext_lazy("day before month (3/4 is the third of April)"),
    "md": gettext_lazy("month before day (3/4 is March 4)"),
}
UNIT_WORDS: Final = {"": gettext_lazy("as the channel"), "degC": "°C", "degF": "°F", "%": "%", "W": "W", "UVI": "UVI", "g": "g"}
UNDER_WAY: Final = gettext_lazy("It is being taken in. You may leave this page.")
MOST_BYTES: Final = 60_000_000  # some two and a half years by the minute
SHOWN_ROWS: Final = 4


@require_http_methods(["GET", "POST"])
def bring(request: HttpRequest, pk: int) -> HttpResponse:
    """Bring a file of readings into a room."""
    room, keeper = room_or_404(request, pk), keeper_of(request)
    problem = ""
    if request.method == "POST":
        may_write(keeper, pk)
        sent = arriving.brought(request, pk, keeper)
        problem = "no_file" if sent is None else "too_long" if sent.size > MOST_BYTES else ""
        if sent is not None and not problem:
            with opened(sent) as raw:
                content = raw.read()
            try:
                table = tables.recognise(content)
            except TableError as error:
                problem = error.code
            else:
                made = table_files.keep_file(room, intent_of(request), sent.name, content)
                known = TableMapping.objects.filter(room=room, shape=table.shape).first()
                if known is not None and _fits(room, known.said):
                    table_files.begin(made, table, Said.model_validate(known.said))
                    messages.info(request, UNDER_WAY)
                sent.delete()
                return redirect("metering:file", made.pk)
        if sent is not None:
            sent.delete()
    files = TableFile.objects.filter(room=room).defer("content")[:20]
    context = {
        "room": room,
        "problem": PROBLEMS.get(problem, ""),
        "files": [_told(one) for one in files],
        "has_channels": room.channels.filter(ended_at__isnull=True).exists(),
    }
    return render(request, "metering/bring.html", context, status=422 if problem else 200)


def _fits(room: Room, said: dict[str, Any]) -> bool:
    """Tell whether the channels that files of this shape go to are all still there."""
    wanted = set(said.get("channels", {}).values())
    return Channel.objects.filter(room=room, pk__in=wanted, ended_at__isnull=True).count() == len(wanted)


@require_http_methods(["GET", "POST"])
def file(request: HttpRequest, pk: int) -> HttpResponse:
    """What each column of a file is; then how far it is taken in, and what became of its rows."""
    made = file_or_404(request, pk)
    if made.state != TableFile.State.ASKED:
        template = "metering/_progress.html" if request.headers.get("HX-Request") else "metering/file.html"
        return render(request, template, {"room": made.room, "file": _told(made), "waits": made.state == TableFile.State.WAITS})
    table = tables.recognise(bytes(made.content or b""))
    channels = list(Channel.objects.filter(room=made.room, ended_at__isnull=True).select_related("habitat", "animal"))
    problem = ""
    if request.method == "POST":
        said, problem = _said(request, table, channels)
        if said is not None:
            table_files.say_columns(made, intent_of(request), table, said)
            messages.info(request, UNDER_WAY)
            return redirect("metering:file", made.pk)
    context = {"room": made.room, "file": _told(made), "problem": problem, "open_order": table.open_order, "orders": ORDERS.items()}
    context |= _columns(request, table, channels) | _zones(request, table)
    context["rows"] = [row for row, _turn in zip(table.rows(), range(SHOWN_ROWS), strict=False)]
    return render(request, "metering/columns.html", context, status=422 if problem else 200)


def _columns(request: HttpRequest, table: OpenedTable, channels: list[Channel]) -> dict[str, Any]:
    found = []
    for at, column in enumerate(table.columns):
        fitting = [one for one in channels if not column.unit or column.unit in _units_of(one)]
        chosen = request.POST.get(f"column-{at}", "")
        found.append(
            {
                "at": at,
                "column": column,
                "choices": [(str(one.pk), _channel_name(one), str(one.pk) == chosen) for one in fitting],
                "unit": request.POST.get(f"unit-{at}", column.unit),
            }
        )
    return {"columns": found, "units": UNIT_WORDS.items()}


def _units_of(channel: Channel) -> tuple[str, ...]:
    unit = PLACES[channel.place].unit
    return ("degC", "degF") if unit == "degC" else (unit,)


def _channel_name(channel: Channel) -> str:
    name = charts.name_of(channel, None)
    if channel.place == "power":
        name = f"{name} {channel.heater + 1}"
    return f"{channel.habitat.name}: {name}" if channel.habitat is not None else name


def _zones(request: HttpRequest, table: OpenedTable) -> dict[str, Any]:
    own = timezone.get_current_timezone_name()
    offset = timezone.localtime(clock.now()).replace(month=1, day=15).strftime("%z")
    winter = f"{offset[:3]}:{offset[3:]}"
    known = [own, winter, "UTC", *([table.zone] if table.zone else [])]
    words = {
        own: _("this room's clock (%(zone)s)") % {"zone": own},
        winter: _("as in January, all year: %(zone)s") % {"zone": winter},
    }
    chosen = request.POST.get("zone") or table.zone or own
    choices = [(zone, words.get(zone, zone)) for zone in dict.fromkeys(known)]
    return {"zones": choices, "zone": chosen, "zone_said": bool(table.zone)}


def _said(request: HttpRequest, table: OpenedTable, channels: list[Channel]) -> tuple[Said | None, str]:
    """What was said of the columns, or why that cannot be."""
    kinds = [column.kind for column in table.columns]
    moment = (kinds.index("moment"),) if "moment" in kinds else (kinds.index("date"), kinds.index("clock"))
    keys = {one.pk for one in channels}
    wanted = {at: typed.key(request.POST.get(f"column-{at}")) for at in range(len(kinds))}
    chosen = {at: key for at, key in wanted.items() if key in keys}
    units = {at: unit for at in chosen if (unit := request.POST.get(f"unit-{at}", "")) in UNIT_WORDS and unit}
    zone = request.POST.get("zone", "")
    if not chosen:
        return None, _("Say of at least one column what it reports.")
    if len(set(chosen.values())) < len(chosen):
        return None, _("Two columns cannot report the same.")
    try:
        tables.zone_of(zone)
    except KeyError:
        return None, _("That zone is not known.")
    order = request.POST.get("order", "") or table.order
    try:
        return Said.model_validate({"moment": moment, "channels": chosen, "units": units, "order": order, "zone": zone}), ""
    except ValidationError:
        return None, _("Say whether the day or the month comes first.")


def _told(made: TableFile) -> dict[str, Any]:
    """A file as a page shows it: how far it is, and what became of its readings."""
    refused = made.outcome.get("refused", {})
    return {
        "row": made,
        "percent": round(100 * made.done / made.rows) if made.rows else 0,
        "new": made.outcome.get("new", 0),
        "known": made.outcome.get("known", 0),
        "refused": [(REFUSALS.get(why, why), count) for why, count in sorted(refused.items())],
        "failed": PROBLEMS.get(made.outcome.get("failed", ""), ""),
    }
