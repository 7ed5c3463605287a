"""The demonstration: a warden on an invented island, three boards, and the shared library of invented parts."""

import json
from pathlib import Path

from django.contrib.auth import get_user_model
from django.db import transaction

from boardmath.buildfile import read_build
from boardmath.choosing import KINDS
from server.demo.entry import DEMO_NAME, demo_user
from server.workshop.library import part_model
from server.workshop.models import Build, Part
from server.workshop.services import create

DATA = Path(__file__).resolve().parent / "data"
_COLUMNS = ("name", "maker", "price", "currency", "mass_g", "source")


@transaction.atomic
def load() -> None:
    """The library, the warden and the three builds."""
    load_library()
    user = get_user_model().objects.create_user(DEMO_NAME)
    # The shelf shows the latest first; the story begins with the oldest.
    for path in sorted(DATA.glob("build-*.json")):
        create(user, read_build(path.read_bytes()))


def load_library() -> None:
    """The shared parts, each checked by the core's model of its kind."""
    library = json.loads((DATA / "library.json").read_text())
    parts = []
    for kind in KINDS:
        for record in library.get(kind, []):
            columns = {key: record[key] for key in _COLUMNS if key in record}
            figures = {key: value for key, value in record.items() if key not in _COLUMNS}
            part = Part(kind=kind, figures=figures, currency=columns.pop("currency", "EUR"), **columns)
            part_model(part)
            parts.append(part)
    Part.objects.bulk_create(parts, ignore_conflicts=True)


@transaction.atomic
def remove() -> None:
    """The warden with everything theirs, and the shared library."""
    user = demo_user()
    if user is not None:
        Build.objects.filter(owner=user).delete()
        user.delete()
    Part.objects.filter(owner=None).delete()
