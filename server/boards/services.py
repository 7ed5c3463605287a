"""What changes builds in the database. Everything takes the owner and touches nobody else's."""

from typing import Any

from django.http import Http404
from django.utils import timezone

from boardmath.buildfile import Build as BuildDocument
from boardmath.buildfile import BuildFile, check, read_build, write_board, write_history
from boardmath.buildfile.methods import Methods
from boardmath.model.cell_groups import as_a_plan
from server.boards.models import Build
from server.errors import ApiError, Conflict
from server.users import Key, Person

BIN_DAYS = 60
"""How long what was deleted can be brought back; then ``manage.py sweep`` takes it away."""
MOST_BUILDS = 400
"""Of one person, those in the bin with them."""


def document_of(build: Build) -> BuildDocument:
    """A saved board: everything that a prediction reads."""
    return check(BuildDocument, build.document)


def file_of(build: Build) -> BuildFile:
    """A saved board as a whole file, with what happened to it."""
    return read_build(build.document | build.history)


def _columns(file: BuildDocument) -> dict[str, Any]:
    """A build as it is stored. What rides taught is learnt from the rides, and never saved beside them."""
    return {
        "document": write_board(file.model_copy(update={"calibration": None})),
        "history": write_history(file) if isinstance(file, BuildFile) else {},
    }


def create(owner: Person, file: BuildDocument) -> Build:
    """Adds a build to the owner's boards; without a history where ``file`` has none.

    Raises:
        ApiError: there is no room for more.
    """
    mine = Build.objects.filter(owner=owner)
    if mine.count() >= MOST_BUILDS:
        # What was deleted first makes room; what is not deleted never does.
        in_the_bin = mine.exclude(deleted_at=None).order_by("deleted_at").values_list("pk", flat=True)
        if not in_the_bin.exists():
            raise ApiError(f"A workshop holds {MOST_BUILDS} boards. Delete one that you do not need any more.")
        Build.objects.filter(pk=in_the_bin[0]).delete()
    return Build.objects.create(owner=owner, **_columns(_with_methods(owner, file)))


def _with_methods(owner: Person, file: BuildDocument) -> BuildDocument:
    """A board that says nothing of how its builder works begins with the methods of the builder's latest board."""
    if file.methods is not None:
        return file
    latest = Build.objects.of(owner).filter(document__has_key="methods").order_by("-updated_at")
    methods = latest.values_list("document__methods", flat=True).first()
    return file.model_copy(update={"methods": Methods.model_validate(methods)}) if methods else file


def get(owner: Person, id: Key) -> Build:
    """The owner's build; somebody else's does not exist."""
    build = Build.objects.of(owner).filter(pk=id).first()
    if build is None:
        raise Http404
    return build


def save(owner: Person, id: Key, file: BuildFile, revision: int) -> Build:
    """Saves over ``revision``; a repeated save of the same file (its answer was lost) is no conflict.

    Raises:
        Conflict: the build has another revision by now.
    """
    columns = _columns(file)
    mine = Build.objects.of(owner).filter(pk=id)
    # One statement, so that of two saves at the same moment one finds the revision gone.
    saved = mine.filter(revision=revision).update(**columns, revision=revision + 1, updated_at=timezone.now())
    current = get(owner, id)
    if not saved and (current.document, current.history) != (columns["document"], columns["history"]):
        raise Conflict(current)
    return current


def duplicate(owner: Person, id: Key) -> Build:
    """A copy under its own name: a plan, with no history and nothing read by a meter or charged yet."""
    original = get(owner, id)
    copied = as_a_plan(document_of(original)).model_copy(update={"name": f"{str(original)[:110]}, copy"})
    return create(owner, copied)


def delete(owner: Person, id: Key) -> None:
    """Deletes it; :func:`restore` brings it back."""
    build = get(owner, id)
    Build.objects.filter(pk=build.pk).update(deleted_at=timezone.now())


def in_the_bin(owner: Person) -> list[Build]:
    """What was deleted and is not swept yet, the latest first."""
    return list(Build.objects.filter(owner=owner).exclude(deleted_at=None).order_by("-deleted_at"))


def restore(owner: Person, id: Key) -> Build:
    """Restores it."""
    Build.objects.filter(owner=owner, pk=id).exclude(deleted_at=None).update(deleted_at=None)
    return get(owner, id)
