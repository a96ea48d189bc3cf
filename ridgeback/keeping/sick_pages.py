"""Sick, or season? What is known of an animal that eats or moves little, weighed on one page."""

from datetime import date, timedelta
from typing import Final

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET

from husbandry.animal.body import body_of
from husbandry.assess.nutrition import season_of
from husbandry.assessment import Verdict
from husbandry.feeding import appetite
from husbandry.plan.habitat import HabitatPlan
from husbandry.species.profile import Profile
from husbandry.watch.rules import usual_weight
from husbandry.watch.sick_or_season import Known, weigh
from ridgeback import clock
from ridgeback.daybook import log, reader
from ridgeback.daybook.models import Event
from ridgeback.keeping.access import animal_or_404
from ridgeback.keeping.meaning_pages import circumstances
from ridgeback.language import seasonwords
from ridgeback.language.entrywords import VET
from ridgeback.metering import measured
from ridgeback.metering.measured import JudgedPlan
from ridgeback.planner import bench, mapping
from ridgeback.planner.view import View
from ridgeback.rooms.models import Animal, Habitat
from ridgeback.rooms.residents import home_of, living_in
from ridgeback.rota import cards
from ridgeback.series import reading

JUDGED: Final = ("basking_surface", "warm_air", "cool_air", "water_temperature", "uv_back", "cool_humidity", "humid_hide")
SAMPLE_DAYS: Final = 120


@require_GET
def sick_or_season(request: HttpRequest, pk: int) -> HttpResponse:
    """What speaks for a season, for its keeping, and for an illness; never a diagnosis."""
    one, today = animal_or_404(request, pk), clock.today()
    home = home_of(one.pk)
    found = weigh(known_of(one, None if home is None else home.habitat_id, today))
    sides = sorted(found.shares, key=lambda side: -found.shares[side])
    context = {
        "animal": one,
        "name": one.called,
        "sides": [
            {"said": seasonwords.SIDES[side][0], "percent": round(100 * found.shares[side]), "code": side.value} for side in sides
        ],
        "do": seasonwords.SIDES[sides[0]][1],
        "evidence": [(item.side.value, seasonwords.EVIDENCE[item.what]) for item in found.evidence],
        "unknown": [seasonwords.UNKNOWN[name] for name in found.unknown if name in seasonwords.UNKNOWN],
        "ask_vet": found.ask_vet,
        "vet": VET,
    }
    return render(request, "keeping/sick_or_season.html", context)


def known_of(one: Animal, habitat_id: int | None, today: date) -> Known:
    """What the daybook, the plan and the instruments know of an animal."""
    masses = [
        (log.day_of(event.at), event.payload["mass_kg"])
        for event in Event.objects.filter(animal=one, kind=Event.Kind.WEIGHED).order_by("at", "id")
    ]
    usual = usual_weight(masses)
    lost = None if usual is None else 1 - masses[-1][1] / usual
    habitat = Habitat.objects.select_related("company", "head__profile", "room", "rota_card").filter(pk=habitat_id or 0).first()
    parasites = _parasites(one, today)
    try:
        plan = None if habitat is None else mapping.plan_of(habitat)
    except mapping.UnreadablePlanError:
        plan = None
    if habitat is None or plan is None:
        return Known(lost_share=lost, parasites=parasites)
    profile, found = bench.assessed(habitat, plan, today, View(), bench.AT_A_GLANCE)
    told = circumstances(one, plan, profile, today)
    season = season_of(plan, today)
    judged = [item for item in found.quantities if item.key in JUDGED and item.season in ("", season)]
    return Known(
        lost_share=lost,
        in_season=bool(told.get("resting") or told.get("breeding-fast")),
        night_cooled=_night(habitat, JudgedPlan(plan, found, season)),
        hatchling=told.get("hatchling"),
        gravid=told.get("gravid"),
        about_to_shed=told.get("shedding"),
        new=told.get("new"),
        keeping_wrong=any(item.verdict in (Verdict.OUTSIDE, Verdict.DANGEROUS) for item in judged),
        days_over=_days_over(one, habitat, plan, profile, today),
        sign=told.get("sign", False),
        parasites=parasites,
    )


def _parasites(one: Animal, today: date) -> bool | None:
    since = today - timedelta(days=SAMPLE_DAYS)
    looked = Event.objects.filter(animal=one, kind=Event.Kind.SCREENED, at__date__gte=since).order_by("at").last()
    if looked is None or looked.payload.get("result") == "waiting":
        return None
    return bool(looked.payload.get("result") == "found")


def _night(habitat: Habitat, by: JudgedPlan) -> bool | None:
    """Whether the last night was as cool as is wanted, where the cool end reports."""
    quantity = by.quantity("cool-air", "night")
    if quantity is None or quantity.band is None or quantity.band.high is None:
        return None
    now = clock.now()
    for channel in measured.channels_of(habitat):
        if channel.place == "cool-air":
            hours = reading.hours_of([channel.pk], now - timedelta(hours=24), now)[channel.pk]
            dark = [value for at, value in hours.items() if by.phase_at(at + timedelta(minutes=30)) == "night"]
            return min(dark) <= quantity.band.high if dark else None
    return None


def _days_over(one: Animal, habitat: Habitat, plan: HabitatPlan, profile: Profile, today: date) -> float | None:
    """Days without a meal beyond what is normal now; None where others live with it or nothing was refused."""
    if len(living_in([habitat.pk])[habitat.pk]) != 1 or one.species != plan.species:
        return None
    made = cards.of_habitats([habitat], today)
    if habitat.pk not in made:
        return None
    history = reader.histories([habitat])[habitat.pk]
    grown = body_of(plan, profile, today).decision.stage.id == profile.stages[-1].id
    found = appetite.without(plan, profile, history, today, grown=grown, interval_days=made[habitat.pk].feed.interval_days)
    return None if found is None else float(found.days - found.normal_days)
