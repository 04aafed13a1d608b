"""Serve Oak Lever on this machine."""

import errno
import os
import signal
from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from waitress import create_server

from config.wsgi import application

_MOST_CONNECTIONS = 500
"""A shop has a few tablets with a handful of connections each; the rest are left over or half sent."""
_IDLE_S = 60
"""A connection on which nothing comes for this long is dropped; a page opens another without a word."""
_LOOK_S = 5


class Command(BaseCommand):
    help = "Serve Oak Lever. Ctrl-C ends it."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--host", default="127.0.0.1")
        parser.add_argument("--port", type=int, default=8000)
        parser.add_argument("--demo", action="store_true", help="load the demo builds first")

    def handle(self, *args: Any, host: str, port: int, demo: bool, **options: Any) -> None:
        if not (settings.WHITENOISE_ROOT / "index.html").is_file():
            raise CommandError("The page is not built yet: run make build.")
        for ending in (signal.SIGINT, signal.SIGTERM):  # also where a shell started us with interrupts ignored
            signal.signal(ending, signal.default_int_handler)
        os.umask(0o077)  # what is kept is its owner's to read
        server = _listen(host, port)
        try:
            self._serve(server, host, demo)
        except KeyboardInterrupt:
            pass
        finally:
            server.close()

    def _serve(self, server: Any, host: str, demo: bool) -> None:
        call_command("migrate", verbosity=0)
        if demo:
            call_command("load_demo", stdout=self.stdout)
        _warm()  # ready means ready: no first drag waits for the compiler
        self.stdout.write(f"Oak Lever is ready at http://{host}:{server.effective_port}/  (Ctrl-C ends it)")
        self.stdout.flush()
        server.run()


def _listen(host: str, port: int) -> Any:
    try:
        return create_server(
            application, host=host, port=port, threads=4, ident=None,
            connection_limit=_MOST_CONNECTIONS, channel_timeout=_IDLE_S, cleanup_interval=_LOOK_S,
        )  # fmt: skip
    except (OSError, OverflowError) as error:
        if getattr(error, "errno", None) == errno.EADDRINUSE:
            raise CommandError(
                f"Port {port} is taken by another program. Give another: make demo PORT={port + 1}"
            ) from None
        raise CommandError(f"Cannot listen on {host}:{port}: {error}") from None


def _warm() -> None:
    """Load the compiled kernel."""
    from oak_lever.motion.warm import warm

    warm()
