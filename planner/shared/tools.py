"""Tools, and what is used up, by the name under which steps ask for them. Common practice, no source."""

from typing import Literal

from pydantic import BaseModel

ToolKey = Literal[
    "allen_keys",
    "spanners",
    "skate_tool",
    "screwdrivers",
    "caliper",
    "straight_edge",
    "square",
    "scale",
    "hanging_scale",
    "drill",
    "wood_bits",
    "countersink",
    "insert_key",
    "files",
    "knife",
    "clamps",
    "hammer",
    "bearing_press",
    "hacksaw",
    "router",
    "iron",
    "welder",
    "multimeter",
    "stripper",
    "crimper",
    "heat_gun",
    "hair_dryer",
    "printer",
    "phone_level",
    "stand",
    "camera",
    "stopwatch",
    "eye_protection",
    "gloves",
    "dust_mask",
    "helmet_and_pads",
    "sand_bucket",
    "threadlocker",
    "solder",
    "flux",
    "masking_tape",
    "marker",
    "baking_paper",
    "template",
    "cable_ties",
    "sleeves",
    "shrink",
    "foam",
    "mounting_tape",
    "sandpaper",
    "grease_cleaner",
    "washers",
]


class Tool(BaseModel):
    """A tool or something used up. ``forgotten`` says why it is missed in the middle of the work, where it usually is."""

    key: ToolKey
    name: str
    used_up: bool = False
    forgotten: str | None = None


def _tool(key: ToolKey, name: str, forgotten: str | None = None, used_up: bool = False) -> Tool:
    return Tool(key=key, name=name, forgotten=forgotten, used_up=used_up)


TOOLS: dict[ToolKey, Tool] = {
    tool.key: tool
    for tool in (
        _tool(
            "allen_keys",
            "Hexagon keys, metric, 1.5 to 6 mm",
            "grub screws need 2 to 2.5 mm, and a worn key rounds them off",
        ),
        _tool("spanners", "Spanners and sockets, 8, 10 and 13 mm"),
        _tool("skate_tool", "Socket for axle nuts, 13 mm"),
        _tool("screwdrivers", "Screwdrivers"),
        _tool("caliper", "Caliper", "the pulley's core needs tenths of a millimetre; a ruler cannot show them"),
        _tool("straight_edge", "Straight edge, 150 mm or longer", "nobody sees one millimetre in a hundred by eye"),
        _tool("square", "Square"),
        _tool("scale", "Kitchen scale, grams"),
        _tool("hanging_scale", "Scale for the whole board", "a bathroom scale will do: you with the board, minus you"),
        _tool("drill", "Drill, slow"),
        _tool("wood_bits", "Wood bits, 5 to 7 mm"),
        _tool("countersink", "Countersink", "a T-nut's flange has to be flush beneath the grip tape"),
        _tool(
            "insert_key",
            "Key for threaded inserts, or a bolt with two nuts",
            "an insert driven in with a screwdriver splits",
        ),
        _tool("files", "Files, flat and half round"),
        _tool("knife", "Knife"),
        _tool("clamps", "Clamps", "the enclosure moves while you mark the second hole"),
        _tool("hammer", "Hammer and a block of wood"),
        _tool("bearing_press", "Axle with two nuts, to press bearings"),
        _tool("hacksaw", "Hacksaw"),
        _tool("router", "Router with a depth stop"),
        _tool("iron", "Soldering iron, 100 W, large tip", "40 W melts one side while the other sets"),
        _tool("welder", "Spot welder for cells"),
        _tool("multimeter", "Multimeter", "polarity and leads are measured before every plug"),
        _tool("stripper", "Wire stripper"),
        _tool("crimper", "Crimping pliers"),
        _tool("heat_gun", "Hot air for shrink"),
        _tool("hair_dryer", "Hair dryer", "grip tape comes off a warm deck, and tears off a cold one"),
        _tool("printer", "3D printer, or someone who has one"),
        _tool("phone_level", "Phone with a level"),
        _tool("stand", "Stand or two blocks, wheels in the air", "two stacks of books will do, if they cannot slide"),
        _tool("camera", "Phone, for pictures", "what was where before you took it apart"),
        _tool("stopwatch", "Phone, as a stopwatch"),
        _tool("eye_protection", "Eye protection"),
        _tool("gloves", "Gloves"),
        _tool("dust_mask", "Dust mask", "do not breathe fibre and urethane dust"),
        _tool("helmet_and_pads", "Helmet, pads for wrist, elbow and knee"),
        _tool("sand_bucket", "Bucket of dry sand, and a place that cannot burn"),
        _tool("threadlocker", "Threadlocker, medium", "ordered last and missed first", used_up=True),
        _tool("solder", "Solder", used_up=True),
        _tool("flux", "Flux", used_up=True),
        _tool(
            "masking_tape",
            "Masking tape",
            "it holds the key in its slot, and pencil marks on a dark deck",
            used_up=True,
        ),
        _tool("marker", "Pencil and marker", used_up=True),
        _tool("baking_paper", "Baking paper", "grip tape does not stick to it; it does to wax paper", used_up=True),
        _tool(
            "template",
            "The 1:1 template, printed at 100 %",
            "a printer that scales to the page moves every hole",
            used_up=True,
        ),
        _tool("cable_ties", "Cable ties and clips", used_up=True),
        _tool("sleeves", "Braided sleeve", used_up=True),
        _tool("shrink", "Heat shrink", used_up=True),
        _tool("foam", "Gasket foam, 3 mm", used_up=True),
        _tool("mounting_tape", "Mounting tape or hook strip", used_up=True),
        _tool("sandpaper", "Sandpaper", used_up=True),
        _tool("grease_cleaner", "Alcohol and a rag", "threadlocker does not hold on oil", used_up=True),
        _tool("washers", "Washers, M4, M5 and M8, a handful", "three or four behind a plate that rubs", used_up=True),
    )
}
