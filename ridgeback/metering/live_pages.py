"""A habitat as it is measured now, its charts, and both on paper."""

import csv
from datetime import datetime
from typing import IO, Any

from django.contrib import messages
from django.http import FileResponse, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from ridgeback import clock
from ridgeback.accounts.context import units_of
from ridgeback.daybook import log
from ridgeback.daybook.writing import intent_of
from ridgeback.metering import charts, measured, picture, shown, telling, uv_decay
from ridgeback.metering.access import channel_or_404, notice_or_404
from ridgeback.metering.actions.notices import put_aside
from ridgeback.metering.measured import JudgedPlan
from ridgeback.planner import mapping, revisions
from ridgeback.rooms.access import habitat_or_404
from ridgeback.rooms.models import Habitat
from ridgeback.series import reading
from ridgeback.series.models import Channel
from ridgeback.series.places import POWER, WEIGHT
from ridgeback.web import typed
from ridgeback.web.addresses import own_address
from ridgeback.web.paper import printed
from ridgeback.web.requests import written_text


@require_GET
def live(request: HttpRequest, pk: int) -> HttpResponse:
    """What is measured now: values against their bands, the section coloured by them, and how thermostats switch."""
    habitat, units, now = habitat_or_404(request, pk), units_of(request.user), clock.now()
    by = measured.beside(habitat, now)
    profile = revisions.profile_of(habitat, by.plan.species)
    channels = measured.channels_of(habitat)
    context = {
        "habitat": habitat,
        "plan": by.plan,
        "profile": profile,
        "rows": [shown.row(channel, by, now, units) for channel in channels if channel.place != POWER],
        "switches": [shown.switching(channel, by, now, units) for channel in channels if channel.place == POWER],
        "room": [
            shown.row(channel, by, now, units)
            for channel in reading.room_channels(habitat.room_id, pk)
            if channel.habitat_id is None
        ],
        "section": picture.draw(habitat, by, profile, now, units) if channels else None,
        "notices": [one for one in telling.standing([pk], [], log.day_of(now), units) if not one.quiet],
        "now": timezone.localtime(now),
    }
    template = "metering/_live.html" if request.headers.get("HX-Request") else "metering/live.html"
    return render(request, template, context)


def beside_of(habitat: Habitat | None, now: datetime) -> JudgedPlan | None:
    """What a channel's habitat is judged by; None for the room's."""
    try:
        return None if habitat is None else measured.beside(habitat, now)
    except mapping.UnreadablePlanError:
        return None


@require_GET
def all_charts(request: HttpRequest, pk: int) -> HttpResponse:
    """Every channel of a habitat over a span of time."""
    habitat, units, now = habitat_or_404(request, pk), units_of(request.user), clock.now()
    span, by = charts.span_of(request.GET), measured.beside(habitat, now)
    context = {
        "habitat": habitat,
        "plan": by.plan,
        "charts": [charts.chart(channel, by, span, units) for channel in [*_drawn(habitat), *_of_the_room(habitat)]],
        "decay": uv_decay.decay(habitat, by, log.day_of(now), units),
    }
    return render(request, "metering/charts.html", context | _spans(span))


def _of_the_room(habitat: Habitat) -> list[Channel]:
    """The room's own channels."""
    return [channel for channel in reading.room_channels(habitat.room_id, habitat.pk) if channel.habitat_id is None]


def _drawn(habitat: Habitat) -> list[Channel]:
    """The channels that have a chart: weighings stand with their animal."""
    return [channel for channel in measured.channels_of(habitat) if channel.place != WEIGHT]


@require_GET
def one_chart(request: HttpRequest, pk: int) -> HttpResponse:
    """One channel over a span of time, with its last days laid over one another."""
    channel, units, now = channel_or_404(request, pk), units_of(request.user), clock.now()
    if channel.animal_id is not None:
        return redirect("keeping:animal", channel.animal_id)
    span, by = charts.span_of(request.GET), beside_of(channel.habitat, now)
    context = {
        "habitat": channel.habitat,
        "channel": channel,
        "chart": charts.chart(channel, by, span, units),
        "laid": charts.laid(channel, log.day_of(span.until), units),
        "whole": True,
    }
    return render(request, "metering/chart.html", context | _spans(span))


@require_GET
def readings_csv(request: HttpRequest, pk: int) -> FileResponse:
    """A channel's readings over a span as CSV, as fine as they are kept: in SI, by the moment with its zone."""
    channel, span = channel_or_404(request, pk), charts.span_of(request.GET)
    unit = measured.unit_of(channel)

    def write(out: IO[str]) -> None:
        writer = csv.writer(out)
        writer.writerow(("at", f"value ({unit})", "lowest", "highest", "readings"))
        for at, value, low, high, count in reading.kept(channel, span.since, span.until):
            writer.writerow((timezone.localtime(at).isoformat(timespec="seconds"), f"{value:g}", f"{low:g}", f"{high:g}", count))

    return written_text(write, "text/csv", channel.code, "readings.csv")


def _spans(span: charts.Span) -> dict[str, Any]:
    return {
        "span": span,
        "spans": charts.SPAN_WORDS.items(),
        "earlier": span.moved(-0.5).query,
        "later": span.moved(0.5).query,
        "closer": span.widened(0.5).query,
        "wider": span.widened(2.0).query,
        "since": timezone.localtime(span.since),
        "until": timezone.localtime(span.until),
    }


@require_GET
def on_paper(request: HttpRequest, pk: int) -> HttpResponse:
    """A habitat's charts as a PDF."""
    habitat, units, now = habitat_or_404(request, pk), units_of(request.user), clock.now()
    span, by = charts.span_of(request.GET), measured.beside(habitat, now)
    found = [charts.chart(channel, by, span, units) for channel in _drawn(habitat)]
    aged = uv_decay.decay(habitat, by, log.day_of(now), units)
    context = {"habitat": habitat, "charts": [one for one in found if one["drawn"]], "decay": aged, "made": timezone.localtime(now)}
    return printed("metering/paper.html", context | _spans(span), f"readings-{pk}")


@require_POST
def quiet(request: HttpRequest, pk: int) -> HttpResponse:
    """Put a notice aside for some days, with a reason."""
    notice = notice_or_404(request, pk)
    days = typed.whole(request.POST.get("days")) or 0
    put_aside(notice, intent_of(request), days, request.POST.get("reason", "").strip())
    messages.info(request, _("Seen. It is quiet for %(days)s days.") % {"days": days})
    back = "keeping:watch"
    return redirect(own_address(request, request.POST.get("next", "")) or back)
