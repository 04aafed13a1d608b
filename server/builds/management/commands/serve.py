"""Serve Oak Lever on this machine."""

import errno
import ipaddress
import json
import logging
import signal
import sqlite3
import threading
from argparse import ArgumentParser, ArgumentTypeError
from logging.handlers import RotatingFileHandler
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import DatabaseError

from builds import long_work, once, workers
from builds.questions.asking import InPose
from builds.store import copies, opening, places
from config.door import DoorServer
from config.guard import WithoutValues
from config.wsgi import application
from cutting.own import SERVICE
from instruments.own import BENCH

DEMO = Path(__file__).parents[2] / "demo"
_PORTS = 65536
_THREADS = 48
"""More than may wait for all that is computed together, so that those who wait keep nobody else out."""


class Command(BaseCommand):
    help = "Serve Oak Lever. Ctrl-C ends it."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--host", default="127.0.0.1")
        parser.add_argument("--port", type=_port, default=8000)
        parser.add_argument("--demo", action="store_true", help="load the demo builds first")

    def handle(self, *args: Any, host: str, port: int, demo: bool, **options: Any) -> None:
        if not (settings.PAGE / "index.html").is_file():
            raise CommandError("The page is not built yet: run make build.")
        for ending in (signal.SIGINT, signal.SIGTERM):  # also where a shell started us with interrupts ignored
            signal.signal(ending, signal.default_int_handler)
        server, stop, beside = _listen(host, port), threading.Event(), []
        lock = self._open(demo)
        try:
            if demo:
                beside = [BENCH.start(str(DEMO / "fell-tender-truck.json")), SERVICE.start()]
            threading.Thread(target=opening.keep_daily, args=(stop,), daemon=True).start()
            _warm()  # ready means ready: no first drag waits for the compiler
            self.stdout.write(f"Oak Lever is ready at http://{host}:{server.effective_port}/  (Ctrl-C ends it)")
            self.stdout.flush()
            server.run()
        except KeyboardInterrupt:
            pass
        finally:
            stop.set()
            for one in filter(None, beside):
                one.terminate()
            for pool in workers.POOLS.values():
                pool.end()
            long_work.stop_all()
            server.close()
            lock.close()

    def _open(self, demo: bool) -> places.Lock:
        """Open the store, the log beside it and, where it is asked for, the demo; what holds the store open."""
        try:
            lock = places.Lock()
            opening.open_store(lock)
            once.forget_old()
            _keep_log()
            if demo:
                call_command("load_demo", stdout=self.stdout)
        except (opening.OtherMake, opening.MustBeAlone, copies.Unsound) as error:
            raise CommandError(str(error)) from None
        except (OSError, sqlite3.Error, DatabaseError) as error:
            raise CommandError(
                f"The store in {settings.DATA} cannot be opened or written: {error}. Free some space on that disk and "
                "let this user write there, or set OAK_LEVER_DATA to another folder; then start again."
            ) from None
        return lock


def _port(given: str) -> int:
    """A port to listen on; 0 for any that is free."""
    if not (given.isascii() and given.isdigit() and int(given) < _PORTS):
        raise ArgumentTypeError(f"{given} is no port: give a number from 1 to 65535, as in make demo PORT=8001")
    return int(given)


def _keep_log() -> None:
    """A log beside the store, its older parts dropped in time."""
    folder = settings.DATA / "log"
    folder.mkdir(mode=0o700, exist_ok=True)
    kept = RotatingFileHandler(folder / "oak-lever.log", maxBytes=2_000_000, backupCount=5)
    kept.setFormatter(WithoutValues("%(asctime)s %(levelname)s %(message)s"))
    for name in ("oak_lever", "django"):
        logging.getLogger(name).addHandler(kept)


def _listen(host: str, port: int) -> Any:
    if not _is_this_machine(host):
        raise CommandError(
            f"{host} would let in whoever reaches this machine, and there is no sign-in yet: Oak Lever listens on "
            "127.0.0.1, ::1 or localhost."
        )
    try:
        return DoorServer(application, host, port, _THREADS)
    except (OSError, ValueError) as error:
        raise CommandError(_why_not(host, port, error)) from None


def _is_this_machine(host: str) -> bool:
    try:
        return host == "localhost" or ipaddress.ip_address(host).is_loopback
    except ValueError:
        return False


def _why_not(host: str, port: int, error: Exception) -> str:
    number = getattr(error, "errno", None)
    if number == errno.EADDRINUSE:
        another = port + 1 if port < _PORTS - 1 else 8001
        return f"Port {port} is taken by another program. Give another: make demo PORT={another}"
    if number == errno.EACCES:
        return f"Port {port} is not for everybody to take. Give one from 1024 on: make demo PORT=8000"
    return f"{host} is no address of this machine: give 127.0.0.1, or one that the machine has ({error})"


def _warm() -> None:
    """Start the processes that compute, each with one answer given."""
    design = json.loads((DEMO / "fell-tender-rear.json").read_text())
    for pool in workers.POOLS.values():
        pool.ready("cycle", InPose(document=design))
