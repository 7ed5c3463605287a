"""Who is signed in and what is asked for, as services are handed them."""

from typing import Any, TypeAlias
from uuid import UUID

Person: TypeAlias = Any
"""A user. Django's own type of ``request.user`` says that it may be nobody; the API's authentication has seen to that."""
Key: TypeAlias = UUID | str
"""What a build, a part or a file is found by."""
