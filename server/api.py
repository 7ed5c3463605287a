"""The API: one document, one way to sign in, one shape of error."""

from ninja import NinjaAPI
from ninja.security import django_auth

from server import faults
from server.accounts.api import router as accounts
from server.benchtests.api import router as benchtests
from server.dossier.api import router as dossier
from server.link.api import router as link
from server.sheets.api import router as sheets
from server.workshop.api import router as workshop

api = NinjaAPI(title="Sand Pocket", version="1", auth=django_auth, docs_url=None, urls_namespace="api")
faults.install(api)
api.add_router("", accounts)
api.add_router("", workshop)
api.add_router("", sheets)
api.add_router("", link)
api.add_router("", benchtests)
api.add_router("", dossier)
