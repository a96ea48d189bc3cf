"""What a set-up lacks that no number of a climate tells: a thermometer beside the thermostats, a powder on the food."""

from collections.abc import Iterator

from husbandry.animal.body import Body
from husbandry.assessment import Finding, Severity
from husbandry.codes import FindingCode
from husbandry.setup_review.told import Told


def missing(told: Told, body: Body) -> Iterator[Finding]:
    """Yield what a set-up of which everything is known lacks.

    Parameters
    ----------
    told
        The set-up.
    body
        The animal: its stage says what goes on its food.

    Returns
    -------
    Findings.

    References
    ----------
    Common practice, no source: a thermostat is trusted with a second thermometer beside it.
    """
    if told.thermometers is False:
        severity = Severity.WRONG if told.heaters else Severity.ADVICE
        yield Finding(FindingCode.MEASURED_NO_THERMOMETER, severity, "heat", {})
    if told.dusted is False:
        lit = {"either", "with" if told.tubes else "without"}
        wanted = [one.product for one in body.decision.stage.feeding.supplements if one.uvb in lit]
        if wanted:
            yield Finding(FindingCode.DIET_UNDUSTED, Severity.WRONG, "food", {"product": wanted[0]})
