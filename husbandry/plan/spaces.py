"""The quantities of space and ground."""

from husbandry.assessment import Band, Basis, BasisKind, Measure, Quantity, Reason, Verdict
from husbandry.plan.casing import Body
from husbandry.plan.document import HabitatPlan
from husbandry.space.sizing import SIDES, Need, depends_on_length, needs
from husbandry.species.profile import Stage, choose

ARITHMETIC = Basis(BasisKind.PRACTICE, note="by arithmetic")


def enclosure_needs(plan: HabitatPlan, stage: Stage, body: Body) -> tuple[dict[str, Need], dict[str, Need]]:
    """Return the minimum and the recommended need per side."""
    count = plan.animal.count
    return needs(stage.space, "minimum", body.length_m, count), needs(stage.space, "recommended", body.length_m, count)


def quantities(plan: HabitatPlan, stage: Stage, body: Body) -> list[Quantity]:
    """Length, width, height, volume and ground depth, each against its rule."""
    box = plan.enclosure
    minimum, recommended = enclosure_needs(plan, stage, body)
    sizes = {"length": max(box.length_m, box.width_m), "width": min(box.length_m, box.width_m), "height": box.height_m}
    found = []
    question = "" if body.length_m is not None or not depends_on_length(stage.space) else "animal.length_m"
    for side in SIDES:
        need = minimum.get(side)
        if need is None:
            found.append(_unknown(f"enclosure_{side}", sizes[side], question))
            continue
        band = Band(need.size_m, None, need.rule.origin, need.rule.school)
        parameters: dict[str, Measure | str | int] = {"need": Measure(need.size_m, "m"), "rule": need.rule.rule}
        if need.rule.rule == "body" and body.length_m is not None:
            factor = {
                "length": max(need.rule.length, need.rule.width),
                "width": min(need.rule.length, need.rule.width),
                "height": need.rule.height,
            }[side]
            parameters |= {"factor": f"{factor:g}", "body": Measure(body.length_m, "m"), "known": int(body.length_known)}
        if side in recommended:
            parameters["recommended"] = Measure(recommended[side].size_m, "m")
        # A millimetre short of the rule is the maker's tolerance, not a fault.
        verdict = Verdict.INSIDE if sizes[side] >= need.size_m - 0.001 else Verdict.OUTSIDE
        if verdict is Verdict.OUTSIDE and sizes[side] >= 0.95 * need.size_m:
            verdict = Verdict.NEAR
        reason = Reason("space.rule", parameters)
        found.append(
            Quantity(
                f"enclosure_{side}", "m", sizes[side], verdict, reason, band.basis, band, school=band.school, question=question
            )
        )
    litres = box.length_m * box.width_m * box.height_m
    found.append(Quantity("volume", "m3", litres, Verdict.NOT_APPLICABLE, Reason("space.volume"), ARITHMETIC))
    depth = choose(stage.ground.depth_cm, plan.schools)
    band = depth.band(factor=0.01)
    reason = Reason("ground.depth", {"kind": plan.ground.kind, "litres": Measure(_ground_m3(plan), "m3")})
    found.append(
        Quantity(
            "ground_depth", "m", plan.ground.depth_m, band.judge(plan.ground.depth_m), reason, band.basis, band, school=band.school
        )
    )
    return found


def _ground_m3(plan: HabitatPlan) -> float:
    return plan.enclosure.length_m * plan.enclosure.width_m * plan.ground.depth_m


def _unknown(key: str, value: float, question: str) -> Quantity:
    return Quantity(
        key, "m", value, Verdict.UNKNOWN, Reason("space.no_rule"), Basis(BasisKind.PRACTICE), question=question or "animal.length_m"
    )
