"""Units at the edge: what a person may type, what they may be shown, and what is kept inside the build file.

Inside the core everything is SI in plain floats. The build file has one fixed unit a quantity (its key's suffix). This
module is the only place that knows how the two relate to what people write: Pint does the conversions, and
:func:`unit_table` hands their factors to the interface, so that no conversion is written twice.
"""

import math
from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING, Literal

if TYPE_CHECKING:
    import pint

Form = Literal["linear", "tangent"]


@dataclass(frozen=True)
class Quantity:
    """A kind of figure: its unit in the build file, what it may be shown in, and what else may be typed.

    ``shown`` and ``typed`` map what a person reads or writes to the unit as Pint spells it.
    """

    name: str
    unit: str
    pint_unit: str
    shown: dict[str, str]
    typed: dict[str, str]
    decimals: dict[str, int]


def _quantity(name: str, unit: str, pint_unit: str, shown: dict[str, tuple[str, int]], **typed: str) -> Quantity:
    return Quantity(
        name,
        unit,
        pint_unit,
        {label: spelling for label, (spelling, _) in shown.items()},
        typed,
        {label: decimals for label, (_, decimals) in shown.items()},
    )


_LENGTH_WORDS = {
    "metre": "meter",
    "m": "meter",
    "cm": "centimeter",
    "inch": "inch",
    '"': "inch",
    "ft": "foot",
    "mm": "mm",
}
_DISTANCE_WORDS = {"m": "meter", "ft": "foot", "km": "kilometer", "mile": "mile", "miles": "mile", "yd": "yard"}
_MASS_WORDS = {"g": "gram", "kg": "kilogram", "lb": "pound", "lbs": "pound", "oz": "ounce", "st": "stone"}

QUANTITIES: dict[str, Quantity] = {
    q.name: q
    for q in (
        _quantity("length", "mm", "mm", {"mm": ("mm", 1), "in": ("inch", 2)}, **_LENGTH_WORDS),
        _quantity("thickness", "mm", "mm", {"mm": ("mm", 2), "in": ("inch", 3)}, **_LENGTH_WORDS),
        _quantity("body_height", "m", "meter", {"m": ("meter", 2), "in": ("inch", 0)}, **_LENGTH_WORDS),
        _quantity("way", "m", "meter", {"m": ("meter", 0), "ft": ("foot", 0)}, **_DISTANCE_WORDS),
        _quantity("distance", "km", "kilometer", {"km": ("kilometer", 1), "mi": ("mile", 1)}, **_DISTANCE_WORDS),
        _quantity(
            "speed",
            "km/h",
            "kilometer/hour",
            {"km/h": ("kilometer/hour", 1), "mph": ("mile/hour", 1)},
            kmh="kilometer/hour",
            kph="kilometer/hour",
            **{"m/s": "meter/second", "kn": "knot", "knots": "knot"},
        ),
        _quantity(
            "wind",
            "m/s",
            "meter/second",
            {"m/s": ("meter/second", 1), "mph": ("mile/hour", 1)},
            kmh="kilometer/hour",
            **{"km/h": "kilometer/hour", "kn": "knot", "knots": "knot"},
        ),
        _quantity("mass", "g", "gram", {"g": ("gram", 0), "oz": ("ounce", 1)}, **_MASS_WORDS),
        _quantity("body_mass", "kg", "kilogram", {"kg": ("kilogram", 1), "lb": ("pound", 1)}, **_MASS_WORDS),
        _quantity("ascent", "m/km", "meter/kilometer", {"m/km": ("meter/kilometer", 0), "ft/mi": ("foot/mile", 0)}),
        _quantity("stops", "a km", "1/kilometer", {"a km": ("1/kilometer", 1), "a mile": ("1/mile", 1)}),
        _quantity("grade", "%", "percent", {"%": ("percent", 1), "°": ("degree", 1)}, deg="degree", percent="percent"),
        _quantity("angle", "°", "degree", {"°": ("degree", 0)}, deg="degree"),
        _quantity("temperature", "°C", "degC", {"°C": ("degC", 0), "°F": ("degF", 0)}, c="degC", f="degF", k="kelvin"),
        _quantity("current", "A", "ampere", {"A": ("ampere", 1)}, ma="milliampere", amp="ampere", amps="ampere"),
        _quantity("voltage", "V", "volt", {"V": ("volt", 1)}, mv="millivolt", volts="volt"),
        _quantity("cell_voltage", "V", "volt", {"V": ("volt", 2)}, mv="millivolt", volts="volt"),
        _quantity("power", "W", "watt", {"W": ("watt", 0)}, kw="kilowatt", hp="horsepower"),
        _quantity("resistance", "mΩ", "milliohm", {"mΩ": ("milliohm", 1)}, mohm="milliohm", ohm="ohm", **{"Ω": "ohm"}),
        _quantity("inductance", "µH", "microhenry", {"µH": ("microhenry", 1)}, uh="microhenry", mh="millihenry"),
        _quantity("flux_linkage", "mWb", "milliweber", {"mWb": ("milliweber", 3)}, wb="weber"),
        _quantity("charge", "Ah", "ampere*hour", {"Ah": ("ampere*hour", 2)}, mah="milliampere*hour"),
        _quantity("motor_constant", "rpm/V", "rpm/volt", {"rpm/V": ("rpm/volt", 0)}, kv="rpm/volt"),
        _quantity("area", "m²", "meter**2", {"m²": ("meter**2", 3)}, m2="meter**2", **{"ft²": "foot**2"}),
        _quantity(
            "density",
            "kg/m³",
            "kilogram/meter**3",
            {"kg/m³": ("kilogram/meter**3", 3)},
            **{"kg/m3": "kilogram/meter**3"},
        ),
        _quantity("minutes", "min", "minute", {"min": ("minute", 1)}, s="second", h="hour", minutes="minute"),
        _quantity("seconds", "s", "second", {"s": ("second", 1)}, min="minute", minutes="minute", h="hour"),
        _quantity("milliseconds", "ms", "millisecond", {"ms": ("millisecond", 2)}),
        _quantity("hours", "h", "hour", {"h": ("hour", 1)}, min="minute"),
        _quantity("force", "N", "newton", {"N": ("newton", 0), "lbf": ("pound_force", 0)}),
        _quantity("torque", "Nm", "newton*meter", {"Nm": ("newton*meter", 1)}),
        _quantity("acceleration", "m/s²", "meter/second**2", {"m/s²": ("meter/second**2", 1)}),
        _quantity("g", "g", "dimensionless", {"g": ("dimensionless", 2)}),
        _quantity("share", "%", "percent", {"%": ("percent", 0)}, percent="percent"),
        _quantity("electrical_speed", "electrical rpm", "rpm", {"electrical rpm": ("rpm", 0)}, rpm="rpm", erpm="rpm"),
        _quantity("turns", "rpm", "rpm", {"rpm": ("rpm", 0)}),
        _quantity("hardness", "A", "dimensionless", {"A": ("dimensionless", 0)}, a="dimensionless"),
        _quantity("count", "", "dimensionless", {"": ("dimensionless", 0)}),
        _quantity("thermal_resistance", "K/W", "kelvin/watt", {"K/W": ("kelvin/watt", 2)}),
        _quantity("heat_capacity", "J/K", "joule/kelvin", {"J/K": ("joule/kelvin", 0)}),
        _quantity("teeth", "teeth", "dimensionless", {"teeth": ("dimensionless", 1)}),
        _quantity("ratio", "", "dimensionless", {"": ("dimensionless", 3)}),
        _quantity("wire", "AWG", "dimensionless", {"AWG": ("dimensionless", 0)}, awg="dimensionless"),
        _quantity("energy", "Wh", "watt*hour", {"Wh": ("watt*hour", 0)}),
        _quantity(
            "energy_per_distance",
            "Wh/km",
            "watt*hour/kilometer",
            {"Wh/km": ("watt*hour/kilometer", 1), "Wh/mi": ("watt*hour/mile", 1)},
        ),
        _quantity("money", "", "dimensionless", {"": ("dimensionless", 2)}),
    )
}


@cache
def _registry() -> "pint.UnitRegistry[float]":
    import pint  # slow to import, and only conversions need it

    return pint.UnitRegistry(autoconvert_offset_to_baseunit=True)


@dataclass(frozen=True)
class Conversion:
    """Build-file value = typed value x factor + offset, or 100 tan(typed value) for an angle given as a grade."""

    factor: float
    offset: float
    form: Form


def conversion(quantity: str, spelling: str) -> Conversion:
    """How a value in ``spelling`` (as Pint spells it) becomes the build file's value of ``quantity``."""
    kind = QUANTITIES[quantity]
    if quantity == "grade" and spelling == "degree":
        return Conversion(1.0, 0.0, "tangent")
    ureg = _registry()
    at_zero = float(ureg.Quantity(0.0, spelling).to(kind.pint_unit).magnitude)
    at_one = float(ureg.Quantity(1.0, spelling).to(kind.pint_unit).magnitude)
    return Conversion(at_one - at_zero, at_zero, "linear")


def to_build_file(quantity: str, value: float, unit: str) -> float:
    """``value`` in any unit a person may write, as the build file keeps it.

    Raises:
        KeyError: the quantity is not measured in that unit.
    """
    kind = QUANTITIES[quantity]
    spelling = {**kind.typed, **kind.shown, kind.unit: kind.pint_unit}[unit]
    how = conversion(quantity, spelling)
    if how.form == "tangent":
        return grade_percent(value)
    return value * how.factor + how.offset


def grade_percent(degrees: float) -> float:
    """Rise over run in percent for a slope in degrees."""
    return 100.0 * math.tan(math.radians(degrees))


def unit_table() -> dict[str, dict[str, object]]:
    """Every quantity with its shown and typed units as conversions, for the interface to apply."""

    def rows(quantity: Quantity, spellings: dict[str, str]) -> dict[str, dict[str, object]]:
        return {
            label: {**conversion(quantity.name, spelling).__dict__, "decimals": quantity.decimals.get(label, 2)}
            for label, spelling in spellings.items()
        }

    return {
        q.name: {"unit": q.unit, "shown": rows(q, q.shown), "typed": rows(q, {**q.typed, **q.shown})}
        for q in QUANTITIES.values()
    }
