"""Whether the kernel runs compiled. The same source does both, with the same results."""

import os
from collections.abc import Callable
from typing import Any

COMPILED = os.environ.get("OAK_LEVER_COMPILED", "1") != "0"


def compiled(function: Callable[..., Any]) -> Any:
    """Numba's compiled version, cached on disk; or the function as it stands when compiling is off.

    For one file the command line leaves it off: loading the compiler takes longer than the sums.
    """
    if not COMPILED:
        return function
    from numba import njit

    # Nothing is allocated in the kernel, so it needs no reference counts: without them it runs twice as fast.
    return njit(cache=True, error_model="numpy", _nrt=False)(function)  # type: ignore[call-overload]
