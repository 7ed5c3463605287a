"""Curves of a build that need not be saved."""

from ninja import Router

from boardmath.prediction.curves import Plot, curves
from server.boards.schemas import DocumentIn
from server.calibration.services import board_in
from server.throttles.concurrency import in_turn
from server.users import PersonRequest

router = Router(tags=["curves"])


@router.post("/curves", response=list[Plot], exclude_none=True)
@in_turn
def curves_of_build(request: PersonRequest, payload: DocumentIn) -> list[Plot]:
    """Curves of a build with their bands; empty while it is not far enough for a prediction."""
    return curves(board_in(request, payload))
