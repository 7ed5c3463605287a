"""The balance leads of a build that need not be saved."""

from ninja import Router, Schema

from boardmath.battery.balance_leads import BalanceLeadsReport, balance_leads_report
from boardmath.battery.bought_pack import bought_pack
from boardmath.messages import Message
from server.boards.schemas import DocumentIn
from server.throttles.concurrency import in_turn
from server.users import PersonRequest

router = Router(tags=["balance leads"])


class BalanceLeadsOut(Schema):
    """``report`` is absent while the pack does not say how many cells stand in series."""

    report: BalanceLeadsReport | None = None
    bought: Message | None = None
    """What to say instead where the pack is bought as one."""


@router.post("/balance-leads", response=BalanceLeadsOut, exclude_none=True)
@in_turn
def balance_leads_of_build(request: PersonRequest, payload: DocumentIn) -> BalanceLeadsOut:
    """Every lead with what it has to show, judged as far as it was read."""
    return BalanceLeadsOut(report=balance_leads_report(payload.document), bought=bought_pack(payload.document))
