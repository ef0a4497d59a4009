"""Long work that is let go when nobody wants it any more: between two steps of a drawing it asks whether it is wanted."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar


class LetGo(BaseException):
    """Nobody wants what is being done. Nothing that takes errors for answers may take this for one."""


def _always() -> bool:
    return True


_WANTED: ContextVar[Callable[[], bool]] = ContextVar("wanted", default=_always)


@contextmanager
def while_wanted(wanted: Callable[[], bool] = _always) -> Iterator[None]:
    """Do what is within for as long as it is wanted."""
    before = _WANTED.set(wanted)
    try:
        yield
    finally:
        _WANTED.reset(before)


def heed() -> None:
    """Go on, if that is still wanted.

    Raises:
        LetGo: it is not.
    """
    if not _WANTED.get()():
        raise LetGo
