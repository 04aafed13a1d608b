"""The process that those which compute are forked from: it has the kernel loaded, so that each is ready at once."""

from contextlib import suppress
from multiprocessing import forkserver, get_context

CONTEXT = get_context("forkserver")
CONTEXT.set_forkserver_preload(["oak_lever.warmed", "oak_lever.api", "orjson"])


def begin() -> None:
    """Have it load what it needs, while this process goes on with something else; where the disk has no room for it,
    the store's opening says so."""
    with suppress(OSError):
        forkserver.ensure_running()
