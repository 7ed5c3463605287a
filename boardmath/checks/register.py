"""All findings on a build, gravest first."""

from collections.abc import Callable, Iterable, Sequence

from boardmath.buildfile.build import Build
from boardmath.buildfile.once import all_asked, once_for_variations
from boardmath.checks import (
    cells,
    detection,
    electrical,
    fittings,
    handling,
    layout,
    pack_making,
    power_path,
    riding,
    rolling_gear,
)
from boardmath.checks import enclosure as housing
from boardmath.checks import settings as settings_checks
from boardmath.checks.finding import Facts, Finding
from boardmath.model.inputs import marked
from boardmath.prediction.outcomes import Outcome

_RULES = (
    # What lies bare on the bench comes before what is planned.
    *pack_making.of_the_making,
    electrical.controller_voltage,
    electrical.cells_mismatch,
    electrical.cut_off_above_the_pack,
    electrical.cells_current,
    electrical.charger_voltage,
    electrical.regen_current,
    power_path.protection_current,
    power_path.only_guard,
    power_path.no_fuse,
    cells.smallest_group,
    cells.worn_pack,
    cells.unlabelled_cells,
    cells.more_than_a_cell_holds,
    power_path.cut_off_too_low,
    power_path.fuse_and_wire,
    power_path.wire_current,
    power_path.switch,
    power_path.motor_current,
    power_path.motor_power,
    power_path.controllers_and_motors,
    power_path.electrical_speed,
    power_path.fixed_cells,
    power_path.plugs,
    power_path.charging_current,
    cells.unlike_bricks,
    cells.polymer_balance,
    cells.salvaged_cells,
    handling.high_kv,
    handling.small_hard_wheels,
    rolling_gear.mount_profile,
    rolling_gear.trucks_on_the_deck,
    rolling_gear.hanger_too_short,
    rolling_gear.motors_side_by_side,
    rolling_gear.axle_length,
    rolling_gear.wheel_core,
    rolling_gear.pulley_and_ground,
    rolling_gear.belt_length,
    rolling_gear.teeth_in_mesh,
    rolling_gear.shaft_and_bore,
    rolling_gear.motor_and_deck,
    rolling_gear.wheel_bite,
    rolling_gear.motor_and_ground,
    rolling_gear.soft_wheels_direct,
    rolling_gear.plastic_pulley,
    housing.over_the_road,
    housing.between_the_trucks,
    housing.beside_the_deck,
    housing.against_the_curves,
    housing.what_goes_into_it,
    layout.routed_deck,
    layout.hollow_deck,
    layout.holes_beside_holes,
    layout.bolts_through,
    layout.standing_room,
    layout.boxes_in_each_other,
    layout.pack_outside,
    fittings.protection_cells,
    fittings.nothing_balances,
    fittings.protection_window,
    fittings.charge_port,
    fittings.loads,
    fittings.remote_lasts,
    fittings.covers,
    fittings.kit_twice,
    settings_checks.speed_reads_wrong,
    settings_checks.cap_above_the_rule,
    settings_checks.quiet_cap_above_the_zone,
    settings_checks.controllers_unalike,
    settings_checks.ceiling_on_a_descent,
    settings_checks.braking_above_full,
    settings_checks.heat_unguarded,
    settings_checks.sensors_not_there,
    settings_checks.link_mismatch,
    settings_checks.hardly_any_brake,
    settings_checks.caps_that_never_come,
    detection.far_from_stated,
    detection.motors_unalike,
    detection.sensors_and_turning,
)


def _once(rule: Callable[[Build], Iterable[Finding]]) -> Callable[[Build], list[Finding]]:
    return once_for_variations(lambda build: list(rule(build)))


_OF_BUILD = tuple(_once(rule) for rule in _RULES)
_OF_PREDICTION = (
    riding.cannot_move,
    riding.short_of_brief,
    riding.faster_than_the_rule,
    riding.speed_to_spare,
    handling.wobble,
)
_OF_FACTS = (
    riding.heat_before_the_top,
    riding.brakes_on_a_full_pack,
    handling.first_second,
    riding.hot_cells,
    pack_making.strip_heat,
    rolling_gear.one_driven_wheel,
)
_GRAVITY = {"danger": 0, "stop": 1, "warn": 2, "note": 3}


def findings(build: Build, outcomes: Sequence[Outcome] | None, facts: Facts | None) -> list[Finding]:
    """What to know about the build and its prediction, gravest first; without ``outcomes`` and ``facts`` less."""
    build = marked(build)
    found = [f for several in all_asked(build, _OF_BUILD) for f in several]
    if outcomes is not None:
        found += [f for weigh in _OF_PREDICTION for f in weigh(build, outcomes)]
    if facts is not None:
        found += [f for ponder in _OF_FACTS for f in ponder(build, facts)]
    aside = {a.finding: a for a in build.accepted or ()}
    found = [f.model_copy(update={"accepted": aside[f.id]}) if f.id in aside else f for f in found]
    return sorted(found, key=lambda f: (f.accepted is not None, _GRAVITY[f.severity]))
