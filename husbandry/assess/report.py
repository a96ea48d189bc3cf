"""An assessment as plain JSON data, numbers rounded to what they are worth."""

from dataclasses import asdict
from typing import Any

from husbandry.animal.growth_outlook import Outlook, When
from husbandry.assess.result import Assessment
from husbandry.assessment import Finding, Measure, Parameter, Quantity
from husbandry.climate.daycourse import DayCourse

DIGITS = 4
HOUR_STEP = 60  # one value an hour out of the minutes


def report(assessment: Assessment, ahead: Outlook | None = None) -> dict[str, Any]:
    """Return the assessment, and what is to come, as JSON-ready data; the layout is described in docs/plan-format.md."""
    decision = assessment.body.decision
    menu = assessment.menu
    return {
        "format": "ridgeback-assessment/1",
        "today": assessment.today.isoformat(),
        "species": assessment.species,
        "stage": {
            "id": decision.stage.id,
            "name": decision.stage.name,
            "decided_by": decision.decided_by,
            "indications": decision.indications,
        },
        "likely": _number(assessment.likely),
        "quantities": [_quantity(item) for item in assessment.quantities],
        "findings": [_finding(item) for item in assessment.findings],
        "menu": {
            "interval_days": menu.interval_days,
            "time_of_day": menu.time_of_day,
            "uvb_given": menu.uvb,
            "feeds": [
                {"date": feed.day.isoformat(), "supplements": [item.product.name for item in feed.dusting]} for feed in menu.days
            ],
        },
        "days": {season: _day(day) for season, day in assessment.days.items()},
        "outlook": None if ahead is None else _outlook(ahead),
    }


def _number(value: float | None) -> float | None:
    return None if value is None else round(value, DIGITS)


def _parameter(value: Parameter) -> Any:
    return {"value": _number(value.value), "unit": value.unit} if isinstance(value, Measure) else value


def _quantity(item: Quantity) -> dict[str, Any]:
    band = item.band
    return {
        "id": item.id,
        "key": item.key,
        "season": item.season,
        "phase": item.phase,
        "value": _number(item.value),
        "unit": item.unit,
        "low": _number(item.low),
        "high": _number(item.high),
        "verdict": item.verdict.value,
        "band": None
        if band is None
        else {
            "low": _number(band.low),
            "high": _number(band.high),
            "danger_low": _number(band.danger_low),
            "danger_high": _number(band.danger_high),
        },
        "reason": {
            "code": item.reason.code,
            "parameters": {name: _parameter(value) for name, value in item.reason.parameters.items()},
        },
        "basis": asdict(item.basis),
        "school": item.school,
        "question": item.question,
        "likely": _number(item.likely),
    }


def _finding(item: Finding) -> dict[str, Any]:
    remedy = item.remedy
    return {
        "id": item.id,
        "severity": item.severity.value,
        "step": item.step,
        "parameters": {name: _parameter(value) for name, value in item.parameters.items()},
        "remedy": None
        if remedy is None
        else {"code": remedy.code, "changes": [{"path": change.path, "value": change.value} for change in remedy.changes]},
    }


def _when(when: When) -> dict[str, str | None]:
    dates = {"about": when.day, "earliest": when.earliest, "latest": when.latest}
    return {name: None if day is None else day.isoformat() for name, day in dates.items()}


def _outlook(ahead: Outlook) -> dict[str, Any]:
    size = ahead.next_size_m
    return {
        "stages": [{"id": stage.id, **_when(when)} for stage, when in ahead.stages],
        "outgrown": _when(ahead.outgrown),
        "grown_size_m": None if size is None else [round(side, 3) for side in size],
        "measured": ahead.measured,
    }


def _day(day: DayCourse) -> dict[str, Any]:
    curves = ("basking_surface", "warm_air", "cool_air", "warm_humidity", "cool_humidity")
    return {
        "hours": [round(float(hour), 3) for hour in day.hours[HOUR_STEP - 1 :: HOUR_STEP]],
        **{name: [round(float(value), 2) for value in getattr(day, name)[HOUR_STEP - 1 :: HOUR_STEP]] for name in curves},
        "kwh": round(day.kwh, 3),
    }
