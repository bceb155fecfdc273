"""How soon twenty members hear of what is said, and how long a pocket sheet takes to be worked out.

`python -m benchmarks.crew` prints both.
"""

from __future__ import annotations

import http.client
import json
import tempfile
import threading
import time
from pathlib import Path

from hollow_glint import demo
from hollow_glint.cli import _own_address
from hollow_glint.store.database import Database
from tests.running import Running, running_server

MEMBERS, ROUNDS = 20, 12
ALONG = {"unit_ids": [3], "lure_ids": [1], "clarities": ["stained"], "lights": ["day"], "companies": ["alone"]}


def _ask(port: int, host: str, method: str, path: str, body: object = None, cookie: str = "") -> tuple[int, bytes, str]:
    line = http.client.HTTPConnection(host, port, timeout=600)
    headers = {"Content-Type": "application/json"} | ({"Cookie": cookie} if cookie else {})
    line.request(method, path, None if body is None else json.dumps(body), headers)
    answer = line.getresponse()
    content, given = answer.read(), answer.getheader("Set-Cookie") or ""
    line.close()
    return answer.status, content, given.split(";")[0]


def hearing(running: Running) -> tuple[float, float]:
    """Seconds from something said to the middle and the last of twenty members who wait, over ROUNDS."""
    address = _own_address()
    cookies = []
    for k in range(MEMBERS):
        words = json.loads(_ask(running.port, "127.0.0.1", "POST", "/api/crew/invitations", {})[1])["words"]
        cookies.append(_ask(running.port, address, "POST", "/api/crew/join", {"given": words, "name": f"M{k}"})[2])
    middle, last = [], []
    for n in range(ROUNDS):
        after = json.loads(_ask(running.port, "127.0.0.1", "GET", "/api/crew/board")[1])["last"]
        heard: list[float] = []

        def wait(cookie: str, after: int = after, heard: list[float] = heard) -> None:
            _ask(running.port, address, "GET", f"/api/crew/news?after={after}&wait_s=20", cookie=cookie)
            heard.append(time.monotonic())

        threads = [threading.Thread(target=wait, args=(one,)) for one in cookies]
        for one in threads:
            one.start()
        time.sleep(1.0)
        began = time.monotonic()
        _ask(running.port, address, "POST", "/api/crew/come-in", {"on": n % 2 == 0}, cookies[0])
        for one in threads:
            one.join()
        heard.sort()
        middle.append(heard[MEMBERS // 2] - began)
        last.append(heard[-1] - began)
    return sorted(middle)[ROUNDS // 2], max(last)


def sheet(running: Running) -> tuple[float, int]:
    """Seconds for one combination of a two-beam ring, and the bytes of its sheet."""
    began = time.monotonic()
    status, content, _ = _ask(running.port, "127.0.0.1", "POST", "/api/lakes/1/pocket", ALONG)
    assert status == 200, content[:200]
    return time.monotonic() - began, len(content)


def rows() -> list[tuple[str, str, str]]:
    """(what, measured, bar) of both."""
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as folder:
        store = Database(Path(folder) / "demo.sqlite3")
        demo.seed(store)
        store.close()
        with running_server(Path(folder), more=("--crew",)) as running:
            middle, last = hearing(running)
            took, size = sheet(running)
    return [
        ("20 members hear of what is said", f"{1000 * middle:.0f} ms; the last in {ROUNDS} rounds {last:.2f} s", "1 s"),
        ("Pocket sheet, one combination", f"{took:.0f} s; {size / 1000:.0f} kB", "600 kB a sheet"),
    ]


if __name__ == "__main__":
    for row in rows():
        print(*row, sep=" | ")
