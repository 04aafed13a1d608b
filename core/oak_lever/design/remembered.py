"""What was worked out of the last designs: they are never changed, and are asked about again and again."""

from collections import OrderedDict
from collections.abc import Callable
from functools import wraps
from typing import TypeVar

from oak_lever.design.types import Design

Value = TypeVar("Value")


def remembered(most: int) -> Callable[[Callable[[Design], Value]], Callable[[Design], Value]]:
    """Of a function of a design alone: its last `most` answers, by the very design that was asked about, which is
    held so that no other takes its id."""

    def of(function: Callable[[Design], Value]) -> Callable[[Design], Value]:
        known: OrderedDict[int, tuple[Design, Value]] = OrderedDict()

        @wraps(function)
        def asked(design: Design) -> Value:
            found = known.get(id(design))
            if found is None:
                found = known[id(design)] = (design, function(design))
                while len(known) > most:
                    known.popitem(last=False)
            return found[1]

        return asked

    return of
