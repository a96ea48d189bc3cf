"""Rules of ultraviolet and day length."""

from collections.abc import Iterator

from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy, Severity
from husbandry.codes import FindingCode, RemedyCode
from husbandry.review.facts import Facts
from husbandry.review.judged import BAD, OFF, SEVERITY, below, miss, named
from husbandry.units import clock_text


def uv_strength(facts: Facts) -> Iterator[Finding]:
    """The UV index at the back, and the lamp that is missing."""
    items = facts.of("uv_back")
    if not items or items[0].verdict not in OFF:
        return
    item, parameters = items[0], named(items[0])
    if not facts.uv_lamps:
        yield Finding(FindingCode.UV_MISSING, Severity.WRONG if facts.light.uv_needed else Severity.ADVICE, "light", parameters)
        return
    if facts.light.uv_wanted is not None and facts.light.uv_wanted[1] == 0.0:
        yield Finding(FindingCode.UV_NOT_WANTED, Severity.ADVICE, "light", parameters)
        return
    code = FindingCode.UV_WEAK if below(item) else FindingCode.UV_STRONG
    yield Finding(code, SEVERITY[item.verdict], "light", parameters)


def uv_lamp_state(facts: Facts) -> Iterator[Finding]:
    """Glass in the way, old lamps, burning at night."""
    for item in facts.uv_lamps:
        path, subject = item.path, str(item.index)
        if item.behind_glass:
            change = Change(f"{path}.behind_glass", False)
            yield Finding(
                FindingCode.UV_BEHIND_GLASS,
                Severity.WRONG,
                "light",
                {"kind": item.kind},
                Remedy(RemedyCode.UV_TAKE_GLASS_AWAY, {}, (change,)),
                subject,
            )
        if item.age_months is None:
            yield Finding(FindingCode.UV_AGE_UNKNOWN, Severity.QUESTION, "light", {"kind": item.kind}, subject=subject)
        elif item.age_months >= item.rated_life_months:
            told: dict[str, Parameter] = {
                "age": Measure(item.age_months, "months"),
                "life": Measure(item.rated_life_months, "months"),
            }
            remedy = Remedy(RemedyCode.UV_REPLACE, {}, (Change(f"{path}.fitted", facts.today),))
            yield Finding(FindingCode.UV_OLD, Severity.WRONG, "light", told | {"kind": item.kind}, remedy, subject)
        if item.on_at_night and item.is_tube:  # a combined lamp's light is said with the heaters
            hours = (Change(f"{path}.on", facts.light.on), Change(f"{path}.off", facts.light.off))
            remedy = Remedy(RemedyCode.HEAT_ONLY_BY_DAY, {"on": facts.light.on, "off": facts.light.off}, hours)
            yield Finding(FindingCode.UV_AT_NIGHT, Severity.WRONG, "light", {"kind": item.kind}, remedy, subject)


def uv_spread(facts: Facts) -> Iterator[Finding]:
    for item in facts.of("uv_shade"):
        if item.verdict in BAD:
            yield Finding(FindingCode.UV_NO_SHADE, Severity.WRONG, "light", named(item), Remedy(RemedyCode.UV_MAKE_SHADE))
    for item in facts.of("uv_coverage"):
        if item.verdict in BAD:
            code = FindingCode.UV_COVERS_LITTLE if below(item) else FindingCode.UV_COVERS_MUCH
            yield Finding(code, Severity.ADVICE, "light", named(item))


def uv_hours(facts: Facts) -> Iterator[Finding]:
    """Short sessions that last all day, or a school of the whole day that gets two hours."""
    for item in facts.of("uv_hours"):
        if item.verdict not in OFF:
            continue
        sessions = item.school == "uvb:sessions"
        code = (
            FindingCode.UV_HOURS_MANY
            if not below(item)
            else FindingCode.UV_HOURS_FEW
            if not sessions
            else FindingCode.UV_SESSIONS_SHORT
        )
        yield Finding(code, Severity.ADVICE, "light", named(item))


def _later(clock: str, minutes: int) -> str:
    """A clock time so many minutes later."""
    return clock_text(int(clock[:2]) + (int(clock[3:5]) + minutes) / 60)


def light_together(facts: Facts) -> Iterator[Finding]:
    """Brightest, hottest and most UV at one place: animals look for warmth and UV where it is bright."""
    for item in facts.of("light_apart"):
        if item.verdict in BAD:
            yield Finding(FindingCode.LIGHT_APART, Severity.ADVICE, "light", named(item), Remedy(RemedyCode.LIGHT_BRING_TOGETHER))


def day_length(facts: Facts) -> Iterator[Finding]:
    """Today's light, and the year's shortest and longest day: a timer is set anew, a year that does not suit is another one."""
    for item in facts.of("light_hours"):
        if item.verdict in OFF and facts.light.changes:
            yield Finding(FindingCode.LIGHT_HOURS, SEVERITY[item.verdict], "light", named(item), about=item.id)
        elif item.verdict in OFF:
            off = _later(facts.light.on, round(facts.light.wanted_hours * 60))
            remedy = Remedy(RemedyCode.LIGHT_UNTIL, {"off": off}, (Change("daylight.off", off),))
            yield Finding(FindingCode.LIGHT_HOURS, SEVERITY[item.verdict], "light", named(item), remedy)
    worst = max((item for key in ("light_hours_least", "light_hours_most") for item in facts.of(key)), key=miss, default=None)
    if worst is not None and worst.verdict in OFF:
        said = named(worst) | {"day": worst.reason.parameters["day"]}
        yield Finding(FindingCode.LIGHT_YEAR, SEVERITY[worst.verdict], "light", said, about=worst.id)
