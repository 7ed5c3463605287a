"""Trips that are planned with a board: days, legs, what happens between them."""

from typing import Annotated, Any, Literal

from pydantic import Field, field_validator, model_validator

from boardmath.buildfile.figures import Day, Record, choice, day, figure, whole, words, yes_no

MOST_KM = 2_000
"""km of a trip: every one of them is ridden in pieces, in each sample."""
MOST_TRIPS, MOST_DAYS, MOST_LEGS, MOST_NODES = 40, 14, 40, 1600
STEEPEST_LEG = 0.35
"""Rise over way of the steepest leg that is believed: a whole leg of it is no road."""
StopKind = Literal["rest", "charge", "swap", "night"]
Ground = Literal["smooth_asphalt", "fair_asphalt", "rough_asphalt", "boardwalk", "packed_gravel"]
Clock = Annotated[str, Field(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")]
TripId = Annotated[str, Field(min_length=1, max_length=40)]
Node = Annotated[float, Field(ge=-500, le=9000)]


def _degrees(title: str, about: str | None = None) -> Any:
    return figure("angle", 0, 360, title, about)


class RouteProfile(Record):
    """A way as a track told it: nodes in their order; ``metres`` from node to node, one fewer than heights."""

    metres: list[Annotated[int, Field(ge=0, le=100_000)]] = Field(max_length=MOST_NODES)
    heights: list[Node] = Field(max_length=MOST_NODES + 1)
    lat: list[Annotated[float, Field(ge=-90, le=90)]] = Field(max_length=MOST_NODES + 1)
    lon: list[Annotated[float, Field(ge=-360, le=360)]] = Field(max_length=MOST_NODES + 1)
    unknown_heights: bool | None = yes_no("Without heights", "the track has none: it counts as level")

    @model_validator(mode="after")
    def _goes_together(self) -> "RouteProfile":
        nodes = len(self.metres) + 1
        if not self.metres or {len(self.heights), len(self.lat), len(self.lon)} != {nodes}:
            raise ValueError("heights and positions have to be one more than the metres between them")
        return self


class TripStop(Record):
    """What happens at the end of a leg."""

    kind: StopKind
    place: str | None = words(80, "Where")
    minutes: float | None = figure("minutes", 0, 2880, "How long")
    charger_a: float | None = figure("current", 0.1, 60, "Charger", "where it differs from the board's own")
    charger_v: float | None = figure("voltage", 3, 120, "Charger's volts", "where it differs from the board's own")
    until_pct: float | None = figure("share", 5, 100, "No further than")


class TripLeg(Record):
    """A way from one point to the next: typed, or from a track. What is not said is as the brief has it."""

    name: str | None = words(80, "To")
    distance_km: float | None = figure("distance", 0.05, 400, "Distance")
    ascent_m: float | None = figure("way", 0, 9000, "Climbed", "all climbs together")
    descent_m: float | None = figure("way", 0, 9000, "Descended")
    bearing_deg: float | None = _degrees("Leads to", "degrees from north, for the wind")
    there_and_back: bool | None = yes_no("There and back")
    speed_kmh: float | None = figure("speed", 3, 80, "Moving speed")
    surface: Ground | None = choice("Surface")
    stops: int | None = whole(0, 500, "Stops on the way")
    profile: RouteProfile | None = Field(default=None, title="Track")
    then: TripStop | None = Field(default=None, title="At its end")

    @property
    def km(self) -> float:
        """Its length one way: the track's, where it has one."""
        return sum(self.profile.metres) / 1000.0 if self.profile is not None else self.distance_km or 0.0

    @model_validator(mode="after")
    def _a_way(self) -> "TripLeg":
        if self.profile is None and self.distance_km is None:
            return self
        if self.distance_km is not None and self.profile is None:
            rise = max(self.ascent_m or 0.0, self.descent_m or 0.0)
            if rise > STEEPEST_LEG * self.distance_km * 1000.0:
                steep = rise / self.distance_km / 10.0
                raise ValueError(
                    f"{rise:,.0f} m in {self.distance_km:g} km is {steep:.0f} % all the way: no road is that steep"
                )
        return self


class TripWeather(Record):
    temperature_c: float | None = figure("temperature", -30, 50, "Temperature")
    wind_ms: float | None = figure(
        "wind", 0, 30, "Wind", "as felt standing; a forecast for 10 m height is half as much again"
    )
    wind_from_deg: float | None = _degrees("Wind comes from", "degrees from north")
    wet: bool | None = yes_no("Wet")


class TripDay(Record):
    on: Day | None = day("On")
    start: Clock | None = Field(default=None, title="Starts at")
    weather: TripWeather = Field(default_factory=TripWeather)
    legs: list[TripLeg] = Field(default=[], max_length=MOST_LEGS)


class Trip(Record):
    """A trip of one or several days."""

    id: TripId
    name: str = Field(min_length=1, max_length=120, title="Name")
    carried_kg: float | None = figure(
        "body_mass", 0, 60, "Luggage", "bag, charger and tools; further packs are counted separately"
    )
    start_pct: float | None = figure("share", 5, 100, "Charge at start")
    swap_packs: int | None = whole(0, 6, "Spare packs", "beside the one on the board")
    packs_beside: int | None = whole(
        0, 3, "Packs beside", "connected to the board's own, so that it has that much more"
    )
    days: list[TripDay] = Field(default=[], max_length=MOST_DAYS)
    rides: list[TripId] | None = Field(default=None, max_length=60, title="Ridden as", description="rides of the log")
    note: str | None = words(2000, "Note")

    @field_validator("days")
    @classmethod
    def _not_too_much(cls, days: list[TripDay]) -> list[TripDay]:
        nodes = sum(len(leg.profile.metres) for d in days for leg in d.legs if leg.profile)
        if nodes > 4 * MOST_NODES:
            raise ValueError(f"its tracks have {nodes:,} nodes; a trip holds {4 * MOST_NODES:,}")
        km = sum(leg.km * (2 if leg.there_and_back else 1) for d in days for leg in d.legs)
        if km > MOST_KM:
            raise ValueError(f"its legs are {km:,.0f} km together; a trip holds {MOST_KM:,} km")
        return days
