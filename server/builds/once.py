"""Operations by their own numbers: one that comes again, its answer having been lost, is answered, not done again."""

import re
from collections.abc import Callable
from datetime import timedelta
from typing import Any

from django.db import transaction
from django.http import HttpRequest
from django.utils import timezone

from builds.models import Build, Operation, Revision, TruckRevision
from oak_lever.api import Fault, Refused

HEADER = "X-Oak-Lever-Operation"
_NUMBER = re.compile(r"[\w-]{8,64}", re.ASCII)
_KEPT = timedelta(days=60)
"""How long a device may be away and still come with what it holds."""
Made = Build | Revision | TruckRevision | None
_KINDS: dict[str, type[Build | Revision | TruckRevision]] = {
    "build": Build, "revision": Revision, "truck": TruckRevision,
}  # fmt: skip


def number_of(request: HttpRequest) -> str | None:
    """The operation's own number, where the asker gave it one.

    Raises:
        Refused: for what is no such number.
    """
    number = request.headers.get(HEADER)
    if number is not None and not _NUMBER.fullmatch(number):
        raise Refused([Fault(HEADER, "must be 8 to 64 letters, digits and hyphens")])
    return number


def once(request: HttpRequest, act: Callable[[], Made]) -> Made:
    """What the operation makes, or made when it came before; its number and what it did are stored together.

    Raises:
        Refused: where the number was another operation's.
    """
    number = number_of(request)
    if number is None:
        return act()
    with transaction.atomic():
        found, made = before(request)
        if found:
            return made
        made = act()
        kind = next((name for name, model in _KINDS.items() if isinstance(made, model)), "nothing")
        Operation.objects.create(
            number=number, asked=_asked(request), made=kind, made_id=None if made is None else made.pk
        )
        return made


def before(request: HttpRequest) -> tuple[bool, Made]:
    """Whether the operation was done before, and what it made."""
    number = number_of(request)
    seen = Operation.objects.filter(number=number).first() if number is not None else None
    if seen is None:
        return False, None
    if seen.asked != _asked(request):
        raise Refused([Fault(HEADER, "is the number of something else that was done")])
    model: Any = _KINDS.get(seen.made)
    return True, model.objects.get(pk=seen.made_id) if model else None


def forget_old() -> None:
    """Numbers of operations that no device can come with any more."""
    Operation.objects.filter(created_at__lt=timezone.now() - _KEPT).delete()


def _asked(request: HttpRequest) -> str:
    return f"{request.method} {request.path}"[:200]
