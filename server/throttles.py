"""How often one person may ask for what takes the engine."""

from ninja.throttling import UserRateThrottle


class PredictionThrottle(UserRateThrottle):
    """Far above what hands can do, and a bound on what a script can."""

    THROTTLE_RATES = {"user": "3000/min"}


class ProposalThrottle(UserRateThrottle):
    """A proposal looks at a thousand boards."""

    THROTTLE_RATES = {"user": "60/min"}
