"""Who is signed in and what is asked for, as services are handed them."""

from typing import Annotated, Any, TypeAlias
from uuid import UUID

from pydantic import Field

Person: TypeAlias = Any
"""A user. Django's own type of ``request.user`` says that it may be nobody; the API's authentication has seen to that."""
Key: TypeAlias = UUID | str
"""What a build, a part or a file is found by."""
Number: TypeAlias = Annotated[int, Field(ge=0, le=2**31 - 1)]
"""A number by which a person counts: a settings record, a test, a page."""
