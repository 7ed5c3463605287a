"""The workshop's routes, one module a room."""

from ninja import Router

from server.workshop.api import builds, buying, library, predictions, revisions

router = Router()
for room in (builds, predictions, buying, revisions, library):
    router.add_router("", room.router)
