"""A crowd at the door: idle and dripping connections, hard questions all at once, and how the program ends."""

from __future__ import annotations

import http.client
import json
import signal
import socket
import sqlite3
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager

import pytest

from hollow_glint.web.busy import AT_ONCE, Gate
from hollow_glint.web.recent import Recent
from tests.running import Running, running_server, start, wait_ready


@pytest.fixture(scope="module")
def program(tmp_path_factory) -> Iterator[Running]:
    with running_server(tmp_path_factory.mktemp("crowd")) as running:
        yield running


def health_s(program: Running) -> float:
    """How long the program takes to say that it is well."""
    begun = time.monotonic()
    status, _ = program.ask("GET", "/api/health")
    assert status == 200
    return time.monotonic() - begun


@contextmanager
def connections(program: Running, many: int, first: bytes = b"") -> Iterator[list[socket.socket]]:
    with ExitStack() as stack:
        made = []
        for _ in range(many):
            one = stack.enter_context(socket.create_connection(("127.0.0.1", program.port), timeout=10))
            if first:
                one.sendall(first)
            made.append(one)
        yield made


def test_health_under_500_idle_and_100_dripping_connections(program):
    """A connection costs a descriptor and no thread: those who ask nothing keep nobody waiting."""
    with connections(program, 500), connections(program, 100, b"POST /api/holes HTTP/1.1\r\nHost: local") as drips:
        stop = threading.Event()

        def drip() -> None:
            while not stop.is_set():
                for one in drips:
                    one.send(b"x")
                stop.wait(0.05)

        dripper = threading.Thread(target=drip, daemon=True)
        dripper.start()
        try:
            took = sorted(health_s(program) for _ in range(12))
        finally:
            stop.set()
            dripper.join()
    assert took[5] < 0.5
    assert took[-1] < 2.0  # one of twelve may meet a busy machine


def raw(program: Running, text: bytes) -> http.client.HTTPResponse:
    with socket.create_connection(("127.0.0.1", program.port), timeout=10) as one:
        one.sendall(text)
        answer = http.client.HTTPResponse(one)
        answer.begin()
        answer.body = answer.read()
        return answer


@pytest.mark.parametrize(
    ("text", "status"),
    [
        (b"NONSENSE\r\n\r\n", 400),
        (b"GET / HTTP/1.1\r\nHost: localhost\r\nContent-Length: -1\r\n\r\n", 400),
        (b"POST /api/holes HTTP/1.1\r\nHost: localhost\r\nTransfer-Encoding: odd\r\n\r\n", 501),
        (b"GET / HTTP/1.1\r\nHost: localhost\r\nX-Long: " + b"x" * 400_000 + b"\r\n\r\n", 431),
        (b"POST /api/holes HTTP/1.1\r\nHost: localhost\r\nContent-Length: 99999999999\r\n\r\n", 413),
    ],
)
def test_errors_of_the_servers_own_are_problem_documents(program, text, status):
    answer = raw(program, text)
    assert answer.status == status
    assert answer.headers["Content-Type"] == "application/problem+json"
    assert "default-src 'none'" in answer.headers["Content-Security-Policy"]
    assert answer.headers["X-Content-Type-Options"] == "nosniff"
    document = json.loads(answer.body)
    assert document["status"] == status
    assert document["detail"].endswith(".")


def test_two_hundred_cards_at_once_keep_nobody_waiting(program):
    """Hard questions are let in a few at a time; the rest are told when to return, and none is lost on the way."""
    answers: list[int] = []
    lock = threading.Lock()

    def ask(k: int) -> None:
        status, _ = program.ask("POST", "/api/hole-card", {"unit_id": 1, "lure_id": 1, "depth_m": 5.0 + 0.05 * k})
        with lock:
            answers.append(status)

    threads = [threading.Thread(target=ask, args=(k,)) for k in range(200)]
    for one in threads:
        one.start()
    took = sorted(health_s(program) for _ in range(8))
    for one in threads:
        one.join()
    assert took[3] < 2.0
    assert set(answers) <= {200, 503}
    assert answers.count(200) >= AT_ONCE
    assert len(answers) == 200


def test_a_gate_lets_few_in_and_few_wait():
    gate = Gate(at_once=1, waiting=1, waits_s=0.05)
    assert gate.enter()
    assert not gate.enter()  # waited, in vain
    gate.leave()
    assert gate.enter()
    gate.leave()


def test_what_is_remembered_is_made_once_however_many_ask():
    recent: Recent[int, int] = Recent(2)
    made: list[int] = []

    def make(k: int) -> int:
        made.append(k)
        time.sleep(0.01)
        return k * k

    threads = [threading.Thread(target=lambda k=k: recent.get(k % 2, lambda: make(k % 2))) for k in range(20)]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    assert sorted(set(made)) == [0, 1]
    for k in range(5):
        recent.get(k, lambda k=k: make(k))
    made.clear()
    recent.get(4, lambda: make(4))
    recent.get(0, lambda: make(0))
    assert made == [0]  # the last two are remembered, the first was let go


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGINT])
def test_the_store_is_closed_however_the_program_is_ended(tmp_path, how):
    running = start(tmp_path, command="serve")
    wait_ready(running)
    hole = {"name": "Kept", "bottom_depth_m": 5.0, "bottom_kind": "mud", "ice_thickness_m": 0.3, "face_depth_m": 0.4}
    assert running.ask("POST", "/api/holes", hole)[0] == 201
    running.process.send_signal(how)
    assert running.process.wait(timeout=10) in (0, 130, 143)
    output = running.process.stdout.read()
    assert "Traceback" not in output
    path = next(one for one in tmp_path.glob("*.sqlite3") if ".copy" not in one.name)
    assert not path.with_name(path.name + "-wal").exists()  # written back into the file and closed
    assert sqlite3.connect(path).execute("SELECT name FROM hole").fetchall() == [("Kept",)]


def test_a_call_to_end_that_is_lost_in_a_finalizer_is_made_again():
    """As a server's main thread may be at it when it comes: a connection that goes is finalized there."""
    program = """
import io, os, signal, time
from hollow_glint.ending import Ending

class Going(io.RawIOBase):
    def close(self):
        if not self.closed:
            os.kill(os.getpid(), signal.SIGTERM)
            time.sleep(0.05)
        super().close()

ending = Ending(0.2)
ending.listen()
try:
    Going()
    print("lost")
    time.sleep(600)
    print("never ended")
except KeyboardInterrupt:
    ending.left()
    os.kill(os.getpid(), signal.SIGTERM)
    time.sleep(0.5)
    print("closed in peace")
"""
    told = subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, timeout=60)
    assert told.stdout.split("\n")[:2] == ["lost", "closed in peace"], told.stderr
