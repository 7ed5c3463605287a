"""The drive close up from the side: the belt's path, its wrap and centre distance."""

from boardmath.buildfile.build import Build
from boardmath.geometry import shapes
from boardmath.geometry.shapes import Drawing, circle, dimension
from boardmath.geometry.stance import axles, deck_height, wheel_radius
from boardmath.geometry.transmission import FLANGE, belt_path, can_radius, motor_centre
from boardmath.geometry.views.side import in_the_ground, side_covers, side_deck, side_motor, side_mount


def drive_view(build: Build) -> Drawing:
    """Wheel, pulleys, belt and motor with the deck above them."""
    rear, radius, can = axles(build)[1], wheel_radius(build), can_radius(build)
    x, y = motor_centre(build)
    path = belt_path(build)
    wheel = circle("wheels", rear, radius, radius, "body", build.parts.wheels is None)
    deck, motor = side_deck(build), side_motor(build, arcs=True)
    bodies = [s for s in motor if s.part == "motors"]
    found = [*shapes.clashes(bodies, [deck], "motor in the deck"), *in_the_ground(motor)]
    beyond = max(rear + radius, x + can if motor else 0.0) + 14.0
    dimensions = [dimension((beyond, 0.0), (beyond, 2.0 * radius), "{length}", 2.0 * radius)]
    if path is not None and motor:
        if path.distance < path.small + path.large + 2.0 * FLANGE:
            pulleys = [s for s in motor if s.part == "drive" and s.radius is not None]
            found += shapes.clashes(pulleys[:1], pulleys[1:2], "pulleys overlap")
        dimensions.append(dimension((x, y), (rear, radius), "{length} apart", path.distance))
    left = min(x - max(can, path.small if path else 0.0), rear - radius) - 30.0
    return Drawing(
        view="drive",
        left=left,
        right=beyond + 50.0,
        bottom=-22.0,
        top=max(deck_height(build) + 40.0, 2.0 * radius + 20.0),
        ground=True,
        shapes=[deck, wheel, *motor, *side_mount(build), *side_covers(build)],
        dimensions=dimensions,
        clashes=found,
        description=_words(build),
    )


def _words(build: Build) -> str:
    path = belt_path(build)
    if build.parts.motors is None and build.parts.drive is None:
        return "The rear wheel from the side; no drive yet."
    if path is None:
        return "The drive from the side: no belt runs here."
    words = (
        f"The belt runs between pulleys {path.distance:.1f} mm apart and wraps {path.wrap_deg:.0f} degrees of the motor "
        f"pulley, {path.teeth_in_mesh:.1f} teeth in mesh."
    )
    return words + (" It is too short for these pulleys." if path.too_short else "")
