"""Whether the kernel runs compiled. The same source does both, with the same results."""

import os
from collections.abc import Callable
from typing import Any

COMPILED = os.environ.get("OAK_LEVER_COMPILED", "1") != "0"


def compiled(function: Callable[..., Any], inline: bool = False) -> Any:
    """Numba's compiled version, cached on disk; or the function as it stands when compiling is off.

    For one file the command line leaves it off: loading the compiler takes longer than the sums.
    """
    if not COMPILED:
        return function
    from numba import njit

    # Nothing is allocated in the kernel, so it needs no reference counts: without them it runs twice as fast.
    options: dict[str, Any] = {"cache": True, "error_model": "numpy", "_nrt": False, "forceinline": inline}
    return njit(**options)(function)


def inlined(function: Callable[..., Any]) -> Any:
    """Compiled into its callers: a call would hand over some two hundred words that describe the arrays."""
    return compiled(function, inline=True)
