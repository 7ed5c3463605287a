"""Charging of a build that need not be saved."""

from typing import Annotated

from ninja import Field, Router

from planner.charging.report import DAY_MIN, ChargingReport, charging_report
from server.boards.schemas import DocumentIn
from server.calibration.services import board_in
from server.throttles.concurrency import in_turn
from server.users import PersonRequest

router = Router(tags=["charging"])


class ChargingIn(DocumentIn):
    """``ready_min`` is the minute of the day at which it has to be charged."""

    from_pct: Annotated[float, Field(ge=0, le=100)] | None = None
    to_pct: Annotated[float, Field(ge=0, le=100)] = 100.0
    ready_min: Annotated[int, Field(ge=0, lt=DAY_MIN)] = 7 * 60 + 30


@router.post("/charging", response=ChargingReport, exclude_none=True)
@in_turn
def charging_of_build(request: PersonRequest, payload: ChargingIn) -> ChargingReport:
    """When to plug in, whether the charger fits, what ceilings give, and the charges that were watched."""
    file = board_in(request, payload)
    return charging_report(file, payload.from_pct, payload.to_pct, payload.ready_min)
