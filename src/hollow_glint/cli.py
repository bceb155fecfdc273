"""The command `hollow-glint`: demo, serve, version, openapi."""

from __future__ import annotations

import argparse
import gc
import json
import logging
import os
import socket
import sqlite3
import subprocess
import sys
import threading
import webbrowser
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any

import platformdirs

from . import __version__
from .ending import Ending

if TYPE_CHECKING:
    from flask_openapi3 import OpenAPI

    from .store.database import Database

DEFAULT_PORT = 8467


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="hollow-glint", description="Bench, card and trainer for fishing sonar used through a hole in the ice."
    )
    commands = parser.add_subparsers(dest="command", required=True, metavar="COMMAND")
    for name, said in (
        ("demo", "run with made-up holes, in a file of its own"),
        ("serve", "run with your own holes"),
    ):
        one = commands.add_parser(name, help=said, description=f"Run Hollow Glint: {said}.")
        one.add_argument("--data", type=Path, metavar="DIR", help="data folder (default: your user data folder)")
        one.add_argument(
            "--host", help="address to listen on (default: this machine only; with --crew all its networks)"
        )
        one.add_argument(
            "--crew", action="store_true", help="let others on this network in as members of a crew, by invitation"
        )
        one.add_argument(
            "--tls", nargs=2, metavar=("CERT", "KEY"), help="with --crew: over TLS, by PEM files of your own"
        )
        one.add_argument("--port", type=int, default=DEFAULT_PORT, help=f"port to listen on (default: {DEFAULT_PORT})")
        one.add_argument("--pace", type=float, default=1.0, help="run the water faster than life, 1 to 10 (default: 1)")
        one.add_argument("--no-browser", action="store_true", help="do not open a browser")
    commands.add_parser("version", help="print the version")
    commands.add_parser("openapi", help="print the OpenAPI document of the web layer")
    return parser


PRACTICE_AFTER_S = 1.5
LEFT_WITHIN_S = (6.0, 0.5)  # the server, once interrupted: without TLS it waits 5 s for requests that are under way
CLOSES_WITHIN_S = 5.0  # the thread that makes a copy of the store, once told to end


def main(arguments: list[str] | None = None) -> int:
    """Run the command. Returns the exit status: 0, or 2 after a sentence on what is wrong."""
    given = _parser().parse_args(arguments)
    if given.command == "version":
        print(__version__)
        return 0
    if given.command == "openapi":
        return _print_openapi()
    if not 1 <= given.port <= 65535:
        return _refuse(f"--port is {given.port}; accepted are whole numbers from 1 to 65535.")
    if not 1.0 <= given.pace <= 10.0:
        return _refuse(f"--pace is {given.pace:g}; accepted are numbers from 1 to 10.")
    host = given.host or ("0.0.0.0" if given.crew else "127.0.0.1")
    if not given.crew and host not in THIS_MACHINE:
        return _refuse(
            f"--host is {host!r}: without --crew only this machine is answered (127.0.0.1, localhost or ::1), for "
            "whoever reaches the program can read and change everything. With --crew others come in by invitation."
        )
    if given.tls and not given.crew:
        return _refuse("--tls is for a crew: give --crew as well; at this machine alone nothing goes over a network.")
    asked = Asked(given.command == "demo", given.data, host, given.port, given.pace, given.crew, given.tls)
    return _run(asked, not given.no_browser)


THIS_MACHINE = ("127.0.0.1", "localhost", "::1")


@dataclass(frozen=True)
class Asked:
    """What was asked for on the command line; `tls` certificate and key, None for without."""

    demo: bool
    folder: Path | None
    host: str
    port: int
    pace: float
    crew: bool
    tls: list[str] | None

    @property
    def scheme(self) -> str:
        """Of its address."""
        return "https" if self.tls else "http"

    def address(self, host: str) -> str:
        """Where it is found under a host's name or number."""
        shown = "127.0.0.1" if host in ("0.0.0.0", "::") else host
        return f"{self.scheme}://{f'[{shown}]' if ':' in shown else shown}:{self.port}/"

    @property
    def crew_url(self) -> str | None:
        """Where others on the network find it; None without a crew."""
        if not self.crew:
            return None
        return self.address(_own_address() if self.host in ("0.0.0.0", "::") else self.host)


def _own_address() -> str:
    """This machine's number on its network: the one from which it would reach another. Nothing is sent."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(("192.0.2.1", 9))  # an address for documents (RFC 5737), which nobody has
            found = str(probe.getsockname()[0])
        except OSError:
            found = ""
    if found and not found.startswith("127."):
        return found
    try:
        numbers = {str(one[4][0]) for one in socket.getaddrinfo(socket.gethostname(), None, socket.AF_INET)}
    except OSError:
        numbers = set()
    return next((one for one in sorted(numbers) if not one.startswith("127.")), "127.0.0.1")


def _refuse(sentence: str) -> int:
    print(f"hollow-glint: {sentence}", file=sys.stderr)
    return 2


def _print_openapi() -> int:
    import tempfile

    from .store.database import Database
    from .web.app import create_app

    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Database(Path(folder) / "empty.sqlite3"))
        with app.app_context():
            print(json.dumps(app.api_doc, indent=1))
    return 0


class Refused(Exception):
    """What was asked for cannot be, in a sentence."""


def _server(app: OpenAPI, asked: Asked) -> Any:
    """A server that is bound and not yet running. Raises Refused."""
    import ssl

    from .web.server import Secured, make_server

    host, port = asked.host, asked.port
    try:
        socket.getaddrinfo(host, port)
    except OSError:
        said = f"--host is {host!r}; accepted are an address or name of this machine, such as 127.0.0.1."
        raise Refused(said) from None
    try:
        return Secured(app, host, port, *asked.tls) if asked.tls else make_server(app, host, port)
    except (FileNotFoundError, PermissionError, ssl.SSLError) as problem:
        if asked.tls and not isinstance(problem, PermissionError):
            said = (
                f"--tls {' '.join(asked.tls)} cannot be used ({problem}); accepted are a certificate and its key, PEM."
            )
            raise Refused(said) from None
        raise Refused(_taken(host, port, problem)) from None
    except OSError as problem:
        raise Refused(_taken(host, port, problem)) from None


def _taken(host: str, port: int, problem: OSError) -> str:
    why = os.strerror(problem.errno) if problem.errno else problem
    said = "Close the program that holds it, or choose another with --port."
    return f"address {host} port {port} cannot be used ({why}). {said}"


def _run(asked: Asked, open_browser: bool) -> int:
    # Imported here so that `version` and wrong flags answer at once; until all is made there is nothing to collect.
    gc.disable()
    from .store.database import Database, StoreError, words_for
    from .web.app import STATIC, create_app

    demo = asked.demo
    logging.basicConfig(level=logging.WARNING, format="%(asctime)s %(levelname)s %(message)s")
    folder = asked.folder or Path(platformdirs.user_data_dir("hollow-glint", appauthor=False))
    path = folder / ("demo.sqlite3" if demo else "hollow-glint.sqlite3")
    if not (STATIC / "index.html").exists():
        return _refuse("the front end has not been built. Run `make setup` in the repository, or install a wheel.")
    try:
        database = Database(path)
        from . import demo as demo_data

        if demo:
            demo_data.seed(database)
        else:
            demo_data.seed_gear(database)
    except StoreError as problem:
        return _refuse(str(problem))
    except sqlite3.Error as problem:
        return _refuse(words_for(problem).sentence)
    app = create_app(database, bound_to=asked.host, pace=asked.pace, demo=demo, crew_url=asked.crew_url)
    try:
        server = _server(app, asked)
    except Refused as refused:
        return _refuse(str(refused))
    # What was made to begin with stays; the collector need not look at it again.
    gc.freeze()
    gc.enable()
    # From here on a SIGTERM, as a service manager sends it, ends the program as Ctrl-C does: with the store closed.
    ending = Ending(LEFT_WITHIN_S[bool(asked.tls)])
    ending.listen()
    beside: list[subprocess.Popen[bytes]] = []
    # Whoever starts the demo wants its picture first; what was practised may come a moment later.
    later = threading.Timer(PRACTICE_AFTER_S, lambda: beside.append(demo_data.seed_practice_beside(path)))
    later.daemon = True
    if demo and not demo_data.has_practice(database):
        later.start()
    copying = threading.Thread(target=_back_up, args=(database,), daemon=True)
    copying.start()
    _say_where(asked, path)
    if open_browser:
        webbrowser.open(asked.address(asked.host))
    try:
        server.run()
    except KeyboardInterrupt:
        pass
    finally:
        ending.left()
        later.cancel()
        server.close()
        for one in beside:
            one.terminate()
            one.wait()
        app.config["keeper"].close()
        _close(database, copying)
    return 0


def _back_up(database: Database) -> None:
    """A copy of the store beside it once a day, so that there is something to go back to."""
    try:
        database.back_up()
    except (sqlite3.Error, OSError) as problem:
        logging.getLogger(__name__).warning("No copy of the store could be made: %s", problem)
    finally:
        database.close()


def _close(database: Database, copying: threading.Thread) -> None:
    """Close the store, and before it the copy that may be in the making."""
    database.stop_copying()
    copying.join(CLOSES_WITHIN_S)
    database.close_all()


def _say_where(asked: Asked, path: Path) -> None:
    name = f"Hollow Glint {__version__}{' demo' if asked.demo else ''}"
    print(f"{name}\n  open  {asked.address(asked.host)}\n  data  {path}", flush=True)
    if asked.crew:
        print(f"  crew  {asked.crew_url}crew, by invitation: Trip, Crew on the page above", flush=True)
        if not asked.tls:
            print(
                "  note  without --tls what members see and send goes over the network for all on it to read: use a "
                "hotspot with a password of its own",
                flush=True,
            )
    print("  stop  Ctrl-C", flush=True)


if __name__ == "__main__":
    raise SystemExit(main())
