"""A real server in a process of its own, for browser tests, benchmarks and screenshots."""

from __future__ import annotations

import json
import os
import shutil
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from hollow_glint import demo
from hollow_glint.store.database import Database

CHROMIUM_FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]


def chromium_path() -> str:
    """Debian's Chromium, found on the PATH."""
    found = shutil.which("chromium")
    if found is None:
        raise RuntimeError("chromium is not on the PATH; `make test` installs it from Debian's packages")
    return found


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@dataclass
class Running:
    process: subprocess.Popen[str]
    port: int
    folder: Path

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def ask(self, method: str, path: str, body: Any = None, headers: dict[str, str] | None = None) -> tuple[int, Any]:
        """One request; the status and the answer read as JSON (or None)."""
        request = urllib.request.Request(
            self.url + path,
            method=method,
            data=None if body is None else json.dumps(body).encode(),
            headers={"Content-Type": "application/json", **(headers or {})},
        )
        try:
            with urllib.request.urlopen(request, timeout=10) as answer:
                text = answer.read()
                return answer.status, json.loads(text) if text else None
        except urllib.error.HTTPError as refused:
            return refused.code, json.loads(refused.read() or "null")


def start(
    folder: Path, port: int | None = None, command: str = "demo", pace: float = 1.0, more: tuple[str, ...] = ()
) -> Running:
    """Start the program and return at once; `wait_ready` waits for it. `more` is what else stands on its line."""
    port = port or free_port()
    process = subprocess.Popen(
        [
            sys.executable,
            "-m",
            "hollow_glint",
            command,
            "--data",
            str(folder),
            "--port",
            str(port),
            "--no-browser",
            "--pace",
            str(pace),
            *more,
        ],
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        env={**os.environ, "PYTHONUNBUFFERED": "1"},
    )
    return Running(process, port, folder)


def wait_ready(running: Running, timeout_s: float = 60.0) -> float:
    """Seconds until /api/health answers.

    A start takes two and a half seconds of a processor, and three workers with their browsers may leave it a tenth of
    one: what is waited for is that it comes. How fast is for `make bench` to say.
    """
    begun = time.monotonic()
    while time.monotonic() - begun < timeout_s:
        if running.process.poll() is not None:
            raise RuntimeError(f"the program stopped: {running.process.stdout.read()}")
        try:
            with urllib.request.urlopen(running.url + "/api/health", timeout=1) as answer:
                if answer.status == 200:
                    return time.monotonic() - begun
        except OSError:
            time.sleep(0.01)
    raise RuntimeError("the program did not become ready")


def seed_demo(folder: Path) -> None:
    """The demo's data with its practice played, so that a program started there has it at once."""
    path = folder / "demo.sqlite3"
    store = Database(path)
    demo.seed(store)
    store.close()
    demo.seed_practice(path)


@contextmanager
def running_server(
    folder: Path, command: str = "demo", pace: float = 1.0, more: tuple[str, ...] = ()
) -> Iterator[Running]:
    """The program, ready, for as long as the block runs."""
    running = start(folder, command=command, pace=pace, more=more)
    try:
        wait_ready(running)
        yield running
    finally:
        running.process.terminate()
        try:
            running.process.wait(timeout=5)
        except subprocess.TimeoutExpired:
            running.process.kill()


def events(running: Running, bench_id: str, timeout_s: float = 10.0) -> Iterator[tuple[str, dict[str, Any]]]:
    """The bench's server-sent events as (name, data)."""
    yield from events_of(running, f"/api/benches/{bench_id}/stream", timeout_s)


def events_of(running: Running, path: str, timeout_s: float = 10.0) -> Iterator[tuple[str, dict[str, Any]]]:
    """The server-sent events of an address as (name, data)."""
    with urllib.request.urlopen(f"{running.url}{path}", timeout=timeout_s) as stream:
        name = ""
        for raw in stream:
            line = raw.decode().rstrip("\n")
            if line.startswith("event: "):
                name = line[7:]
            elif line.startswith("data: "):
                yield name, json.loads(line[6:])
