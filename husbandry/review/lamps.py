"""Rules of ultraviolet and day length."""

from collections.abc import Iterator

from husbandry.assessment import Change, Finding, Measure, Parameter, Remedy, Severity
from husbandry.review.facts import Facts
from husbandry.review.judged import BAD, OFF, SEVERITY, below, named


def uv_strength(facts: Facts) -> Iterator[Finding]:
    """The UV index at the back, and the lamp that is missing."""
    items = facts.of("uv_back")
    if not items or items[0].verdict not in OFF:
        return
    item, parameters = items[0], named(items[0])
    if not facts.uv_lamps:
        yield Finding("uv.missing", Severity.WRONG if facts.light.uv_needed else Severity.ADVICE, "light", parameters)
        return
    if facts.light.uv_wanted is not None and facts.light.uv_wanted[1] == 0.0:
        yield Finding("uv.not_wanted", Severity.ADVICE, "light", parameters)
        return
    code = "uv.weak" if below(item) else "uv.strong"
    yield Finding(code, SEVERITY[item.verdict], "light", parameters)


def uv_lamp_state(facts: Facts) -> Iterator[Finding]:
    """Glass in the way, old lamps, burning at night."""
    for item in facts.uv_lamps:
        path, subject = item.path, str(item.index)
        if item.behind_glass:
            change = Change(f"{path}.behind_glass", False)
            yield Finding(
                "uv.behind_glass",
                Severity.WRONG,
                "light",
                {"kind": item.kind},
                Remedy("uv.take_glass_away", {}, (change,)),
                subject,
            )
        if item.age_months is None:
            yield Finding("uv.age_unknown", Severity.QUESTION, "light", {"kind": item.kind}, subject=subject)
        elif item.age_months >= item.rated_life_months:
            told: dict[str, Parameter] = {
                "age": Measure(item.age_months, "months"),
                "life": Measure(item.rated_life_months, "months"),
            }
            remedy = Remedy("uv.replace", {}, (Change(f"{path}.fitted", facts.today),))
            yield Finding("uv.old", Severity.WRONG, "light", told | {"kind": item.kind}, remedy, subject)
        if item.on_at_night and item.is_tube:  # a combined lamp's light is said with the heaters
            hours = (Change(f"{path}.on", facts.light.on), Change(f"{path}.off", facts.light.off))
            remedy = Remedy("heat.only_by_day", {"on": facts.light.on, "off": facts.light.off}, hours)
            yield Finding("uv.at_night", Severity.WRONG, "light", {"kind": item.kind}, remedy, subject)


def uv_spread(facts: Facts) -> Iterator[Finding]:
    for item in facts.of("uv_shade"):
        if item.verdict in BAD:
            yield Finding("uv.no_shade", Severity.WRONG, "light", named(item), Remedy("uv.make_shade"))
    for item in facts.of("uv_coverage"):
        if item.verdict in BAD:
            code = "uv.covers_little" if below(item) else "uv.covers_much"
            yield Finding(
                code, Severity.ADVICE, "light", named(item), Remedy("uv.longer_tube" if below(item) else "uv.shorter_tube")
            )


def uv_hours(facts: Facts) -> Iterator[Finding]:
    """Short sessions that last all day, or a school of the whole day that gets two hours."""
    for item in facts.of("uv_hours"):
        if item.verdict not in OFF:
            continue
        sessions = item.school == "uvb:sessions"
        code = "uv.hours_many" if not below(item) else "uv.hours_few" if not sessions else "uv.sessions_short"
        yield Finding(code, Severity.ADVICE, "light", named(item))


def _later(clock: str, minutes: int) -> str:
    """A clock time so many minutes later."""
    moved = (int(clock[:2]) * 60 + int(clock[3:5]) + minutes) % (24 * 60)
    return f"{moved // 60:02d}:{moved % 60:02d}"


def light_together(facts: Facts) -> Iterator[Finding]:
    """Brightest, hottest and most UV at one place: animals look for warmth and UV where it is bright."""
    for item in facts.of("light_apart"):
        if item.verdict in BAD:
            yield Finding("light.apart", Severity.ADVICE, "light", named(item), Remedy("light.bring_together"))


def day_length(facts: Facts) -> Iterator[Finding]:
    for item in facts.of("light_hours"):
        if item.verdict in OFF:
            off = _later(facts.light.on, round(facts.light.wanted_hours * 60))
            remedy = Remedy("light.until", {"off": off}, (Change("daylight.off", off),))
            yield Finding("light.hours", SEVERITY[item.verdict], "light", named(item), remedy)
