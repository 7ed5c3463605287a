"""The API: one document, one way to sign in, one shape of error."""

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema
from ninja.security import django_auth

from server import errors
from server.account.api import router as account
from server.account.security import router as security
from server.archive.api import router as archive
from server.assembly.api import router as assembly
from server.bench.api import router as bench
from server.benchtest.api import router as benchtest
from server.box.api import router as box
from server.cameto.api import router as cameto
from server.cells.api import router as cells
from server.charging.api import router as charging
from server.compare.api import router as compare
from server.curves.api import router as curves
from server.dossier.api import router as dossier
from server.drawings.api import router as drawings
from server.errors import FaultsOut
from server.explorer.api import router as explorer
from server.jobs.api import router as jobs
from server.learnt.api import router as learnt
from server.library.api import router as library
from server.link.api import router as link
from server.pack.api import router as pack
from server.partslist.api import router as partslist
from server.revisions.api import router as revisions
from server.rides.api import router as rides
from server.sheet.api import router as sheet
from server.shelf.api import router as shelf
from server.stands.api import router as stands
from server.taps.api import router as taps
from server.trips.api import router as trips
from server.upkeep.api import router as upkeep
from server.wiring.api import router as wiring


class WholeAPI(NinjaAPI):
    """Says of every route what it may answer instead: a refusal, in one shape."""

    def get_openapi_schema(self, **given: Any) -> OpenAPISchema:
        """The OpenAPI document; what is a file is one, and not JSON."""
        document = super().get_openapi_schema(**given)
        refusal = {"application/json": {"schema": {"$ref": "#/components/schemas/FaultsOut"}}}
        said = FaultsOut.model_json_schema(ref_template="#/components/schemas/{model}")
        document["components"]["schemas"] |= {**said.pop("$defs"), "FaultsOut": said}
        for path in document["paths"].values():
            for operation in path.values():
                answers = operation["responses"]
                for answer in answers.values():
                    content = answer.get("content", {})
                    if content.get("application/json", {}).get("schema", {}).get("format") == "binary":
                        answer["content"] = {"*/*": content["application/json"]}
                answers["4XX"] = {"description": "Refused, with the reason", "content": refusal}
                answers["503"] = {"description": "Too much is asked for; Retry-After says when", "content": refusal}
        return document


api = WholeAPI(title="Sand Pocket", version="1", auth=django_auth, docs_url=None, urls_namespace="api")
errors.install(api)
for room in (
    account,
    security,
    bench,  # its paths below /builds come before /builds/{id}, which would take them for an id
    partslist,
    shelf,
    stands,
    curves,
    drawings,
    explorer,
    box,
    library,
    compare,
    cells,
    pack,
    taps,
    trips,
    upkeep,
    cameto,
    wiring,
    charging,
    revisions,
    sheet,
    link,
    jobs,
    benchtest,
    assembly,
    rides,
    learnt,
    dossier,
    archive,
):
    api.add_router("", room)
