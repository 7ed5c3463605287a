"""The pack's plan of a build that need not be saved."""

from ninja import Router

from planner.pack.report import PackReport, pack_report
from server.boards.schemas import DocumentIn
from server.throttles.concurrency import in_turn
from server.users import PersonRequest

router = Router(tags=["pack"])


@router.post("/pack", response=PackReport, exclude_none=True)
@in_turn
def pack_of_build(request: PersonRequest, payload: DocumentIn) -> PackReport:
    """Where the cells lie, what joins them and what that bears."""
    return pack_report(payload.document)
