"""The enclosures that were computed by a resolved flow (OpenFOAM), as the zone model is given them."""

from dataclasses import dataclass

from husbandry.climate.case import BaskingSpot, EnclosureCase, HeaterCase, RoomState
from husbandry.climate.heaters import HEATERS

ROOM_C = 22.0
ROOM = {season: RoomState(ROOM_C, ROOM_C, 50.0) for season in ("summer", "winter")}
GROUND_M = 0.02


@dataclass(frozen=True)
class Resolved:
    """One enclosure with the vapour that is given off at its floor in the resolved flow, g/h, and its cells in m."""

    case: EnclosureCase
    vapour_g_h: float
    cell_m: float


def _lamp(watts: float, x_m: float, height_m: float) -> HeaterCase:
    """A flood that burns day and night: what is compared is one steady state."""
    return HeaterCase("reflector-flood", watts, x_m, height_m, HEATERS["reflector-flood"].half_angle_deg, 0.0, 0.0)


def _box(
    kind: str, lid: str, size: tuple[float, float, float], x_m: float, lamp: HeaterCase | None, **more: object
) -> EnclosureCase:
    spot = BaskingSpot(x_m, 0.2, GROUND_M, "ground")
    return EnclosureCase(kind, lid, 0.65, *size, "sand", GROUND_M, False, spot, (lamp,) if lamp else (), ROOM, 8.0, 20.0)


RESOLVED = {
    # No keeper's: an evenly warmed floor under a bare opening, for which there is a published exchange.
    "bare-opening": Resolved(_box("glass", "open", (0.9, 0.45, 0.45), 0.225, None), 5.0, 0.025),
    "closed-box": Resolved(_box("polypropylene", "solid", (1.2, 0.6, 0.6), 0.3, _lamp(100, 0.3, 0.42)), 5.0, 0.03),
    "glass-under-mesh": Resolved(_box("glass", "mesh", (0.9, 0.45, 0.45), 0.225, _lamp(75, 0.225, 0.45)), 5.0, 0.025),
    "tall-glass": Resolved(_box("glass", "mesh", (0.45, 0.45, 0.9), 0.15, _lamp(50, 0.15, 0.9)), 5.0, 0.025),
}
