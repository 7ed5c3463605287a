"""The balance wires of a build that need not be saved."""

from django.http import HttpRequest
from ninja import Router, Schema

from boardmath.battery.balance_leads import TapsReport, taps_report
from server.shelf.schemas import DocumentIn
from server.throttles.concurrency import in_turn

router = Router(tags=["taps"])


class TapsOut(Schema):
    """``report`` is absent while the pack does not say how many cells stand in series."""

    report: TapsReport | None = None


@router.post("/taps", response=TapsOut, exclude_none=True)
@in_turn
def taps_of_build(request: HttpRequest, payload: DocumentIn) -> object:
    """Every tap with what it has to show, judged as far as it was read."""
    return TapsOut(report=taps_report(payload.document))
