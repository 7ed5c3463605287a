"""Who is signed in and what is asked for, as services are handed them."""

from typing import Annotated, TypeAlias
from uuid import UUID

from django.contrib.auth.models import User
from django.http import HttpRequest
from pydantic import Field

Person: TypeAlias = User


class PersonRequest(HttpRequest):
    """A request that has passed the API's authentication: its user is somebody."""

    user: User


Key: TypeAlias = UUID | str
"""What a build, a part or a file is found by."""
Number: TypeAlias = Annotated[int, Field(ge=0, le=2**31 - 1)]
"""A number by which a person counts: a settings record, a test, a page."""
