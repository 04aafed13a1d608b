"""Whether the kernel runs compiled, and where what was compiled is kept. The same source does both, with the same
results."""

import hashlib
import os
import shutil
import sys
import tempfile
from collections.abc import Callable, Iterable
from functools import cache
from pathlib import Path
from typing import Any

COMPILED = os.environ.get("OAK_LEVER_COMPILED", "1") != "0"

_HERE = Path(__file__).resolve().parent
SOURCES = (
    *sorted((_HERE / "kernel").glob("*.py")), _HERE.parent / "clearance" / "kernel.py", _HERE / "compiling.py",
    _HERE.parent / "tolerances.py",
)  # fmt: skip
"""Everything that the compiled code depends on: functions are compiled into each other, tolerances into all of them."""


def compiled(function: Callable[..., Any], inline: bool = False) -> Any:
    """Numba's compiled version, cached on disk; or the function as it stands when compiling is off.

    For one file the command line leaves it off: loading the compiler takes longer than the sums.
    """
    if not COMPILED:
        return function
    import numba

    place = _cache(numba.__version__)
    if place is not None:
        setattr(numba.config, "CACHE_DIR", str(place))  # noqa: B010 -- its type says nothing of it
    # Nothing is allocated in the kernel, so it needs no reference counts: without them it runs twice as fast.
    options: dict[str, Any] = {
        "cache": place is not None,
        "error_model": "numpy",
        "_nrt": False,
        "forceinline": inline,
    }
    return numba.njit(**options)(function)


def inlined(function: Callable[..., Any]) -> Any:
    """Compiled into its callers: a call would hand over some two hundred words that describe the arrays."""
    return compiled(function, inline=True)


def key_of(sources: Iterable[Path], compiler: str) -> str:
    """A name for what is compiled from these sources, by that compiler, for this Python: another for any change."""
    digest = hashlib.sha256(f"{compiler} {sys.implementation.cache_tag}".encode())
    for path in sources:
        digest.update(path.name.encode() + b"\0" + path.read_bytes() + b"\0")
    return digest.hexdigest()[:16]


@cache
def _cache(compiler: str) -> Path | None:
    """Where compiled code is kept: beside the sources, or with the user's caches; None where neither can be written.

    The compiler by itself looks only at the one file a function stands in; hence a place of its own for each state of
    all of them. Older states are cleared away.
    """
    own = Path(os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache") / "oak-lever"
    for root in (_HERE / "__pycache__" / "kernel", own / "kernel"):
        place = root / key_of(SOURCES, compiler)
        try:
            place.mkdir(parents=True, exist_ok=True)
            tempfile.TemporaryFile(dir=place).close()
        except OSError:
            continue
        for older in root.iterdir():
            if older != place:
                shutil.rmtree(older, ignore_errors=True)
        return place
    return None
