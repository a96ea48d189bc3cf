"""A plan that learns by itself: each night anew from its readings, kept as a revision where it moved."""

from datetime import datetime
from typing import Final

import numpy as np
from django.utils.translation import gettext as _

from husbandry.plan.editing import apply
from husbandry.plan.habitat import HabitatPlan
from husbandry.plan.reading import read_data
from ridgeback.daybook import log
from ridgeback.language.told import later
from ridgeback.planner import mapping, readings, revisions
from ridgeback.planner.reported import reported
from ridgeback.rooms.models import Habitat

MOVED: Final = 0.15  # standard deviations of a parameter's prior, from which a calibration has moved
MOVED_UV: Final = 0.03  # of the lamps' strength


def learn_anew(habitat: Habitat, now: datetime) -> bool:
    """Calibrate a plan by what was read and reported; tell whether it moved. Raises mapping.UnreadablePlanError."""
    plan, today = mapping.plan_of(habitat), log.day_of(now)
    taken = [*readings.of_habitat(habitat), *reported(habitat, plan, now)]
    if not any(item.days for item in taken):
        return False
    learnt = readings.learn(plan, revisions.profile_of(habitat), taken, today)
    change = readings.change(*learnt, len(taken), today)
    made = read_data(apply(plan.model_dump(mode="json"), (change,)))
    if not _moved(plan, made):
        return False
    revisions.save(habitat.pk, made, habitat.version, None, now, later(lambda: _("calibrated by what is reported")))
    return True


def _moved(before: HabitatPlan, after: HabitatPlan) -> bool:
    one, two = before.calibration, after.calibration
    if one is None or two is None:
        return two is not None
    if bool(one.middle) != bool(two.middle):
        return True
    apart = np.abs(np.array(one.middle) - np.array(two.middle)).max() if one.middle else 0.0
    return bool(apart > MOVED) or abs((one.uv or 1.0) - (two.uv or 1.0)) > MOVED_UV
