"""The API: one document, one way to sign in, one shape of error."""

from importlib import import_module
from importlib.util import find_spec
from typing import Any

from ninja import NinjaAPI, Router
from ninja.openapi.schema import OpenAPISchema
from ninja.security import django_auth

from planner.navigation import PAGES
from server import errors
from server.errors import FaultsOut
from server.text_validation import JsonBody

BESIDE_PAGES = (
    "account.api",
    "account.security",
    "boards.api",
    "library.api",
    "compare.api",
    "controller.api",
    "jobs.api",
    "dossier.api",
    "archive.api",
)
"""Routers of what is not a page of a board."""


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


def routers() -> list[Router]:
    """The router of each page that asks the server something, from the folder that its slug names, then the others.

    Pages come first: their paths below /builds would be taken for a board's id by /builds/{id}.
    """
    pages = (f"{page.package}.api" for page in PAGES)
    found = [name for name in pages if find_spec(f"server.{name.partition('.')[0]}") is not None]
    return [import_module(f"server.{name}").router for name in (*found, *BESIDE_PAGES)]


# Its document takes seconds to make: `make build` writes it down, and nobody gets it made by asking.
api = WholeAPI(
    title="Sand Pocket",
    version="1",
    auth=django_auth,
    parser=JsonBody(),
    docs_url=None,
    openapi_url=None,
    urls_namespace="api",
)
errors.install(api)
for router in routers():
    api.add_router("", router)
