"""The API: one document, one way to sign in, one shape of error."""

from ninja import NinjaAPI
from ninja.security import django_auth

from server import faults
from server.account.api import router as account
from server.archive.api import router as archive
from server.bench.api import router as bench
from server.benchtest.api import router as benchtest
from server.box.api import router as box
from server.compare.api import router as compare
from server.curves.api import router as curves
from server.dossier.api import router as dossier
from server.drawings.api import router as drawings
from server.jobs.api import router as jobs
from server.library.api import router as library
from server.link.api import router as link
from server.partslist.api import router as partslist
from server.revisions.api import router as revisions
from server.sheet.api import router as sheet
from server.shelf.api import router as shelf
from server.stands.api import router as stands

api = NinjaAPI(title="Sand Pocket", version="1", auth=django_auth, docs_url=None, urls_namespace="api")
faults.install(api)
for room in (
    account,
    shelf,
    stands,
    bench,
    curves,
    drawings,
    box,
    library,
    compare,
    partslist,
    revisions,
    sheet,
    link,
    jobs,
    benchtest,
    dossier,
    archive,
):
    api.add_router("", room)
