"""Answers that are large or frequent, written as JSON in one go."""

from django.http import HttpResponse
from pydantic import BaseModel


def json_response(found: BaseModel) -> HttpResponse:
    """A model as the API gives it, what is not known left out; the model is as it was made, and not validated again."""
    return HttpResponse(found.model_dump_json(exclude_none=True), content_type="application/json; charset=utf-8")
