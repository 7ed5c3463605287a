"""Turns at the engine: who asks for much waits for himself, and nobody else for him.

Within one process one request after the other has the engine, person by person: whoever has eight requests waiting gets
one turn a round like everybody else.
"""

from collections import OrderedDict, deque
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import wraps
from threading import Event, Lock
from time import monotonic
from typing import Concatenate, ParamSpec, TypeVar

from server.errors import ApiError
from server.users import PersonRequest

_MANY = 1000
P = ParamSpec("P")
R = TypeVar("R")
MOST_EACH = 5
"""Of one person, waiting or under way in one process: a fast hand has two or three, as what was overtaken is still answered."""
LONGEST_S = 20.0
BURST, PER_S = 40.0, 1.0
"""Turns of one person in one process: so many at once, as when a handle is dragged, and so many a second for long."""


class Turns:
    """A door that lets one in at a time, and those who wait person by person."""

    def __init__(self, most_each: int = MOST_EACH, burst: float = BURST, per_s: float = PER_S) -> None:
        self._lock, self._taken, self._most_each = Lock(), False, most_each
        self._burst, self._per_s = burst, per_s
        # What each person has in hand, and when that was; who has all of it is not kept.
        self._purses: dict[object, tuple[float, float]] = {}
        # Each person's waiting requests; the person at the front is next, and goes to the end after a turn.
        self._waiting: OrderedDict[object, deque[Event]] = OrderedDict()
        self._here: dict[object, int] = {}

    @contextmanager
    def turn(self, who: object) -> Iterator[None]:
        """Waits for a turn and has it.

        Raises:
            ApiError: this person has too many waiting (429), or nobody's turn came for long (503).
        """
        mine = self._line_up(who)
        try:
            if mine is not None and not mine.wait(LONGEST_S) and self._withdraw(who, mine):
                raise ApiError("Too many requests at the moment. Try again.", status=503, retry_after=2)
            try:
                yield
            finally:
                self._pass_on()
        finally:
            with self._lock:
                self._here[who] -= 1
                if not self._here[who]:
                    del self._here[who]

    def _line_up(self, who: object) -> Event | None:
        with self._lock:
            if self._here.get(who, 0) >= self._most_each:
                raise ApiError("Too many requests at once. Try again in a moment.", status=429, retry_after=1)
            self._spend(who)
            self._here[who] = self._here.get(who, 0) + 1
            if not self._taken:
                self._taken = True
                return None
            mine = Event()
            self._waiting.setdefault(who, deque()).append(mine)
            return mine

    def _spend(self, who: object) -> None:
        now = monotonic()
        left, then = self._purses.get(who, (self._burst, now))
        left = min(left + (now - then) * self._per_s, self._burst)
        if left < 1.0:
            raise ApiError("Too many requests in a short time. Try again in a moment.", status=429, retry_after=1)
        self._purses[who] = (left - 1.0, now)
        if len(self._purses) > _MANY:
            full = now - self._burst / self._per_s
            self._purses = {w: p for w, p in self._purses.items() if p[1] > full}

    def _withdraw(self, who: object, mine: Event) -> bool:
        """False where the turn came in the same moment."""
        with self._lock:
            if mine.is_set():
                return False
            self._waiting[who].remove(mine)
            if not self._waiting[who]:
                del self._waiting[who]
            return True

    def _pass_on(self) -> None:
        with self._lock:
            if not self._waiting:
                self._taken = False
                return
            who, line = self._waiting.popitem(last=False)
            line.popleft().set()
            if line:
                self._waiting[who] = line


Answer = Callable[Concatenate[PersonRequest, P], R]


def in_turn_of(turns: Turns) -> Callable[[Answer[P, R]], Answer[P, R]]:
    """A route that waits for the person's turn."""

    def wrapped(answer: Answer[P, R]) -> Answer[P, R]:
        @wraps(answer)
        def turned(request: PersonRequest, /, *args: P.args, **kwargs: P.kwargs) -> R:
            with turns.turn(request.user.pk):
                return answer(request, *args, **kwargs)

        return turned

    return wrapped


ENGINE = Turns()
in_turn = in_turn_of(ENGINE)
"""A route that takes the engine."""
