"""How the board handles under its rider: wobble at speed, a start that throws one off, wheels and ground.

Common practice, no source, unless said otherwise: these are cautions with their reasons, not predictions.
"""

from collections.abc import Iterator, Sequence

from boardmath.buildfile.build import Build
from boardmath.checks.finding import Facts, Finding, can_be_set, finding, fix
from boardmath.geometry.stance import deck_height
from boardmath.messages import message
from boardmath.model.defaults import USUAL
from boardmath.model.inputs import drive_kind
from boardmath.model.resolution import centre_of_mass_height
from boardmath.model.wheel_materials import material_of
from boardmath.prediction.outcomes import Outcome

CALM_KMH, CALM_WHEELBASE_MM = 42.0, 640.0
"""Speed up to which a board of the usual wheelbase, stiff, low, with single pivots and firm bushings, rarely wobbles."""
LOOSE_LEAN_DEG, HIGH_DECK_MM, HEAVY_KG = 24.0, 140.0, 95.0
FEET_APART_M, ROOM_AT_THE_ENDS_M = 0.55, 0.12
"""How far apart the feet stand, and what of the wheelbase is not stood on."""
LEANS_INTO_IT = 1.2
"""A rider who expects the start leans into it, and bears so much more than one who stands straight."""
HIGH_KV = 260.0
"""rpm/V above which a geared motor gives so little torque an ampere that starts need very large currents."""
SMALL_WHEEL_MM, LARGER_WHEEL_MM, HARD_A = 85.0, 97.0, 78.0
"""What is small and hard on rough ground, and what is better there."""
ROUGH = ("rough_asphalt", "boardwalk", "packed_gravel")


def wobble(build: Build, outcomes: Sequence[Outcome]) -> Iterator[Finding]:
    """A top speed above that up to which such a board rarely wobbles, with what lowers it."""
    speed = outcomes[0].mid
    if speed is None:
        return
    deck, trucks = build.parts.deck, build.parts.trucks
    wheelbase = (deck.wheelbase_mm if deck else None) or USUAL["deck.wheelbase_mm"]
    calm, reasons = CALM_KMH * min(max(wheelbase / CALM_WHEELBASE_MM, 0.75), 1.2), []
    if wheelbase < CALM_WHEELBASE_MM - 20.0:
        reasons.append("its wheelbase is short")
    for applies, factor, reason in (
        (trucks is not None and trucks.pivots == 2, 0.8, "its trucks have two pivots"),
        (trucks is not None and (trucks.lean_deg or 0.0) > LOOSE_LEAN_DEG, 0.9, "its trucks lean far"),
        (deck is not None and deck.flex == "soft", 0.9, "its deck flexes"),
        (deck_height(build) > HIGH_DECK_MM, 0.92, "you stand high"),
        (build.rider.mass_kg > HEAVY_KG, 0.95, "the bushings carry a heavy rider"),
    ):
        if applies:
            calm *= factor
            reasons.append(reason)
    if speed <= calm:
        return
    why = (
        f", because {' and '.join([', '.join(reasons[:-1]), reasons[-1]] if reasons[1:] else reasons)}"
        if reasons
        else ""
    )
    yield finding(
        kind="wobble",
        severity="warn",
        title="May wobble at top speed",
        about=["trucks", "deck"],
        fields=["parts.deck.wheelbase_mm", "parts.trucks.pivots"],
        message=message(
            "It reaches {speed}; above about {calm} such a board can start to wobble{why}. Fit harder "
            "bushings, keep your weight on the front foot, and raise your speed in small steps, with helmet "
            "and pads.",
            speed=(speed, "speed"),
            calm=(calm, "speed"),
            why=why,
        ),
        fixes=[fix("Cap the speed at {calm}", {"settings.speed_cap_kmh": float(int(calm))}, calm=(int(calm), "speed"))]
        if can_be_set(build)
        else (),
    )


def tipping_g(build: Build) -> float:
    """Thrust in g at which a rider who leans into the start begins to tip off the back: half the stance over the height."""
    deck = build.parts.deck
    wheelbase = ((deck.wheelbase_mm if deck else None) or USUAL["deck.wheelbase_mm"]) / 1000.0
    stance = max(min(FEET_APART_M, wheelbase - ROOM_AT_THE_ENDS_M), 0.2)
    return LEANS_INTO_IT * stance / 2.0 / centre_of_mass_height(build)


def first_second(build: Build, facts: Facts) -> Iterator[Finding]:
    """A start that throws the rider off the back."""
    bears = tipping_g(build)
    if facts.first_second_g <= bears:
        return
    yield finding(
        kind="first-second",
        severity="warn",
        title="The start is very hard",
        about=["controller", "settings", "motors"],
        fields=["settings.motor_current_a"],
        message=message(
            "At full throttle the first second pulls {first}; from about {bears} a rider of your height on this wheelbase "
            "tips off the back. Lower the motor current, or set a throttle ramp.",
            first=(facts.first_second_g, "g"),
            bears=(bears, "g"),
        ),
    )


def high_kv(build: Build) -> Iterator[Finding]:
    """A geared motor that turns so fast a volt that its starts need very large currents."""
    motors = build.parts.motors
    if motors is None or motors.kv_rpm_per_v is None or motors.kv_rpm_per_v <= HIGH_KV:
        return
    if drive_kind(build) in ("hub", "direct"):
        return
    yield finding(
        kind="high-kv",
        severity="warn",
        title="Very high KV for a board",
        about=["motors", "controller"],
        fields=["parts.motors.kv_rpm_per_v"],
        message=message(
            "The motor has {kv}; most boards have 140 to 230. It gives little torque an ampere, so every start needs a very "
            "large current that heats motor and controller. Use a lower KV, or much more gear reduction.",
            kv=(motors.kv_rpm_per_v, "motor_constant"),
        ),
    )


def small_hard_wheels(build: Build) -> Iterator[Finding]:
    """Small hard wheels where the ground is rough: a crack or a pebble stops them."""
    wheels, surface = build.parts.wheels, build.brief.surface
    if wheels is None or wheels.diameter_mm is None or surface not in ROUGH or material_of(wheels).soft:
        return
    if wheels.diameter_mm > SMALL_WHEEL_MM or (wheels.hardness_a or HARD_A) < HARD_A:
        return
    yield finding(
        kind="small-hard-wheels",
        severity="warn",
        title="Small hard wheels on rough ground",
        about=["wheels", "brief"],
        fields=["parts.wheels.diameter_mm", "parts.wheels.hardness_a"],
        message=message(
            "Wheels of {wheel} on {surface}: a pebble or a gap between boards can stop one at once and "
            "throw you. Use wheels of {better} or more, and softer ones.",
            wheel=(wheels.diameter_mm, "length"),
            better=(LARGER_WHEEL_MM, "length"),
            surface=surface.replace("_", " "),
        ),
    )
