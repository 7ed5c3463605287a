"""A kit: one purchase that brings several parts."""

from pydantic import Field

from boardmath.buildfile.drivetrain import Covers, Drive, MotorMount, Motors
from boardmath.buildfile.electrics import ChargePort, Charger, Controller, Enclosure, Fuse, Pack, Remote, Switch, Wiring
from boardmath.buildfile.figures import Part, Record
from boardmath.buildfile.rolling import Deck, Risers, Spreaders, Trucks, Wheels


class KitContents(Record):
    """One part of each kind, as a kit brings them and a board has them."""

    deck: Deck | None = None
    trucks: Trucks | None = None
    wheels: Wheels | None = None
    risers: Risers | None = None
    spreaders: Spreaders | None = None
    motors: Motors | None = None
    drive: Drive | None = None
    mount: MotorMount | None = None
    covers: Covers | None = None
    pack: Pack | None = None
    controller: Controller | None = None
    charger: Charger | None = None
    charge_port: ChargePort | None = None
    remote: Remote | None = None
    switch: Switch | None = None
    fuse: Fuse | None = None
    wiring: Wiring | None = None
    enclosure: Enclosure | None = None


class Kit(Part):
    """On a board it has the price and the purchase; the parts that came in it name it."""

    contents: KitContents | None = Field(default=None, title="What is in it")
