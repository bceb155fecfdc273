"""The command `hollow-glint`: demo, serve, version, openapi."""

from __future__ import annotations

import argparse
import gc
import json
import logging
import os
import signal
import socket
import sqlite3
import subprocess
import sys
import threading
import webbrowser
from pathlib import Path
from typing import TYPE_CHECKING

import platformdirs

from . import __version__

if TYPE_CHECKING:
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
        one.add_argument("--host", default="127.0.0.1", help="address to listen on (default: 127.0.0.1, this machine)")
        one.add_argument("--port", type=int, default=DEFAULT_PORT, help=f"port to listen on (default: {DEFAULT_PORT})")
        one.add_argument("--pace", type=float, default=1.0, help="run the water faster than life, 1 to 10 (default: 1)")
        one.add_argument("--no-browser", action="store_true", help="do not open a browser")
    commands.add_parser("version", help="print the version")
    commands.add_parser("openapi", help="print the OpenAPI document of the web layer")
    return parser


PRACTICE_AFTER_S = 1.5
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
    return _run(given.command == "demo", given.data, given.host, given.port, not given.no_browser, given.pace)


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


def _run(demo: bool, folder: Path | None, host: str, port: int, open_browser: bool, pace: float) -> int:
    # Imported here so that `version` and wrong flags answer at once; until all is made there is nothing to collect.
    gc.disable()
    from .store.database import Database, StoreError, words_for
    from .web.app import STATIC, create_app
    from .web.server import make_server

    logging.basicConfig(level=logging.WARNING, format="%(asctime)s %(levelname)s %(message)s")
    folder = folder or Path(platformdirs.user_data_dir("hollow-glint", appauthor=False))
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
    app = create_app(database, bound_to=host, pace=pace, demo=demo)
    try:
        socket.getaddrinfo(host, port)
    except OSError:
        return _refuse(f"--host is {host!r}; accepted are an address or name of this machine, such as 127.0.0.1.")
    try:
        server = make_server(app, host, port)
    except OSError as problem:
        return _refuse(
            f"address {host} port {port} cannot be used ({os.strerror(problem.errno) if problem.errno else problem}). "
            "Close the program that holds it, or choose another with --port."
        )
    # What was made to begin with stays; the collector need not look at it again.
    gc.freeze()
    gc.enable()
    # From here on a SIGTERM, as a service manager sends it, ends the program as Ctrl-C does: with the store closed.
    signal.signal(signal.SIGTERM, _interrupt)
    beside: list[subprocess.Popen[bytes]] = []
    # Whoever starts the demo wants its picture first; what was practised may come a moment later.
    later = threading.Timer(PRACTICE_AFTER_S, lambda: beside.append(demo_data.seed_practice_beside(path)))
    later.daemon = True
    if demo and not demo_data.has_practice(database):
        later.start()
    copying = threading.Thread(target=_back_up, args=(database,), daemon=True)
    copying.start()
    _say_where(demo, host, port, path)
    if open_browser:
        webbrowser.open(_address(host, port))
    try:
        server.run()
    except KeyboardInterrupt:
        pass
    finally:
        later.cancel()
        server.close()
        for one in beside:
            one.terminate()
            one.wait()
        app.config["keeper"].close()
        _close(database, copying)
    return 0


def _interrupt(*_: object) -> None:
    raise KeyboardInterrupt


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


def _address(host: str, port: int) -> str:
    shown = "127.0.0.1" if host in ("0.0.0.0", "::") else host
    return f"http://{f'[{shown}]' if ':' in shown else shown}:{port}/"


def _say_where(demo: bool, host: str, port: int, path: Path) -> None:
    print(
        f"Hollow Glint {__version__}{' demo' if demo else ''}\n  open  {_address(host, port)}\n  data  {path}",
        flush=True,
    )
    if host not in ("127.0.0.1", "localhost", "::1"):
        print("  note  others on this network can reach it; there is no password", flush=True)
    print("  stop  Ctrl-C", flush=True)


if __name__ == "__main__":
    raise SystemExit(main())
