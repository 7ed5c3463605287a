"""Named points in a build's life, and the way back to one of them, on which nothing is lost."""

from django.db import transaction
from django.http import Http404

from boardmath.buildfile import Build as BuildDocument
from boardmath.buildfile import check, read_build
from server.boards import services
from server.boards.models import Build
from server.errors import ApiError, Conflict
from server.revisions.models import Revision
from server.users import Key, Person

MOST_REVISIONS = 200


def of(owner: Person, build_id: Key) -> list[Revision]:
    """A build's named points, the oldest first."""
    return list(Revision.objects.filter(build=services.get(owner, build_id)))


def get(owner: Person, build_id: Key, revision_id: Key) -> Revision:
    """One named point of the owner's build; somebody else's does not exist."""
    found = Revision.objects.filter(
        pk=revision_id, build_id=build_id, build__owner=owner, build__deleted_at=None
    ).first()
    if found is None:
        raise Http404
    return found


def document_of(revision: Revision) -> BuildDocument:
    """The board as it was at a named point."""
    return check(BuildDocument, revision.document)


def keep(owner: Person, build_id: Key, name: str, note: str = "") -> Revision:
    """Keeps the build as it is saved now under a name.

    Raises:
        ApiError: without a name, or with too many kept already.
    """
    build = services.get(owner, build_id)
    if not name.strip():
        raise ApiError("A revision needs a name.", name="such as planned, ordered, as built")
    check_room(build, 1)
    return Revision.objects.create(
        build=build, name=name.strip()[:60], note=note.strip()[:600], document=build.document
    )


def rename(owner: Person, build_id: Key, revision_id: Key, words: tuple[str, str], before: tuple[str, str]) -> Revision:
    """Another name and note; what was kept stays as it is.

    Args:
        words: name and note; before: those that they replace.

    Raises:
        ApiError: without a name.
        Conflict: they are others by now.
    """
    found, (name, note) = get(owner, build_id, revision_id), words
    if not name.strip():
        raise ApiError("A revision needs a name.", name="such as planned, ordered, as built")
    new = {"name": name.strip()[:60], "note": note.strip()[:600]}
    done = Revision.objects.filter(pk=found.pk, name=before[0], note=before[1]).update(**new)
    found = get(owner, build_id, revision_id)
    if not done and (found.name, found.note) != tuple(new.values()):
        raise Conflict(found)
    return found


@transaction.atomic
def go_back(owner: Person, build_id: Key, revision_id: Key, revision: int) -> Build:
    """Makes the build as it was at a named point, as a new revision; what stood there before is kept too.

    Raises:
        Conflict: the build was saved since by someone else.
    """
    found = get(owner, build_id, revision_id)
    before = services.get(owner, build_id)
    latest = Revision.objects.filter(build=before).last()
    check_room(before, 2)
    # What happened to the board is no part of what it was: trips and maintenance stay as they are.
    after = services.save(owner, build_id, read_build(found.document | before.history), revision)
    if latest is None or latest.document != before.document:
        Revision.objects.create(build=before, name=f"Before restoring {found.name}"[:60], document=before.document)
    name = found.name.removeprefix("Restored: ").removeprefix("Back to ")
    Revision.objects.create(build=before, name=f"Restored: {name}"[:60], document=after.document)
    return after


def check_room(build: Build, more: int) -> None:
    """Fails where a board would have more revisions than it can keep.

    Raises:
        ApiError: there is no room.
    """
    if Revision.objects.filter(build=build).count() + more > MOST_REVISIONS:
        raise ApiError(f"A board keeps {MOST_REVISIONS} revisions. Duplicate it, and continue with the copy.")
