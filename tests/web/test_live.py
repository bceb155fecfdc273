"""Live benches through the real server: pace, many at once, readers that vanish without a word."""

from __future__ import annotations

import socket
import struct
import threading
import time

import pytest

from tests.running import Running, events, running_server


@pytest.fixture(scope="module")
def program(tmp_path_factory):
    with running_server(tmp_path_factory.mktemp("data")) as running:
        yield running


def new_bench(program: Running, **more) -> dict:
    status, bench = program.ask("POST", "/api/benches", {"hole_id": 1, "unit_id": 1, "lure_id": 3, "seed": 1, **more})
    assert status == 201
    return bench


def live(program: Running) -> int:
    return program.ask("GET", "/api/health")[1]["live_benches"]


def wait_until(done, timeout_s: float) -> bool:
    end = time.monotonic() + timeout_s
    while time.monotonic() < end:
        if done():
            return True
        time.sleep(0.05)
    return done()


def test_frames_come_in_order_and_simulated_time_is_real_time(program):
    bench = new_bench(program)
    begun, frames = time.monotonic(), []
    for name, data in events(program, bench["id"]):
        if name == "frame":
            frames.append(data)
        if len(frames) == 40:
            break
    took = time.monotonic() - begun
    assert [frame["number"] for frame in frames] == list(range(1, 41))
    assert frames[-1]["time_s"] == pytest.approx(2.0)
    # Never faster than life; how much slower depends on the machine and is for `make bench` to say.
    assert took > 1.8
    assert program.ask("GET", f"/api/benches/{bench['id']}/frame")[1]["number"] >= 40


def test_several_benches_are_each_their_own(program):
    benches = [new_bench(program, seed=seed, lure_depth_m=0.41) for seed in range(4)]
    depths: dict[str, float] = {}

    def read(at: int) -> None:
        bench = benches[at]
        if at % 2:
            program.ask("POST", f"/api/benches/{bench['id']}/commands", {"to_depth_m": 5.0})
        for name, data in events(program, bench["id"]):
            if name == "frame" and data["number"] >= 30:
                depths[bench["id"]] = data["lure_depth_m"]
                return

    threads = [threading.Thread(target=read, args=(at,)) for at in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(timeout=20)
    sunk = [depths[bench["id"]] for bench in benches]
    assert sunk[0] == sunk[2] < 0.5
    assert sunk[1] == sunk[3] > 1.0
    assert len({bench["id"] for bench in benches}) == 4


def test_a_reader_that_goes_is_noticed_and_its_bench_freed(program):
    assert wait_until(lambda: live(program) == 0, 6.0)
    bench = new_bench(program)
    stream = events(program, bench["id"])
    next(stream)
    assert live(program) == 1
    stream.close()
    assert wait_until(lambda: live(program) == 0, 6.0)
    assert program.ask("GET", f"/api/benches/{bench['id']}/tuning")[0] == 404


def test_a_reader_that_is_cut_off_is_noticed_too(program):
    bench = new_bench(program)
    with socket.create_connection(("127.0.0.1", program.port)) as raw:
        raw.sendall(
            f"GET /api/benches/{bench['id']}/stream HTTP/1.1\r\nHost: 127.0.0.1:{program.port}\r\n\r\n".encode()
        )
        assert b"200 OK" in raw.recv(4096)
        # A reset, as from a phone that left the network.
        raw.setsockopt(socket.SOL_SOCKET, socket.SO_LINGER, struct.pack("ii", 1, 0))
    assert wait_until(lambda: live(program) == 0, 6.0)


def test_a_reader_that_comes_back_in_time_finds_its_bench_as_it_was(program):
    bench = new_bench(program, lure_depth_m=0.41)
    program.ask("POST", f"/api/benches/{bench['id']}/commands", {"to_depth_m": 4.0})
    first = events(program, bench["id"])
    reached = next(data for name, data in first if name == "frame" and data["number"] >= 20)
    first.close()
    time.sleep(1.0)
    again = events(program, bench["id"])
    frame = next(data for name, data in again if name == "frame")
    assert frame["number"] > reached["number"]
    assert frame["lure_depth_m"] >= reached["lure_depth_m"] > 0.5
    # The newcomer is told how the knobs stand without asking.
    assert any(name == "tuning" for name, _ in (next(again) for _ in range(5)))
    again.close()


def test_foreign_pages_get_no_picture(program):
    bench = new_bench(program)
    for headers in ({"Origin": "https://evil.example"}, {"Host": "evil.example"}, {"Sec-Fetch-Site": "cross-site"}):
        status, document = program.ask("GET", f"/api/benches/{bench['id']}/stream", headers=headers)
        assert status == 403
        assert document["detail"].endswith(".")
    assert program.ask("DELETE", f"/api/benches/{bench['id']}")[0] == 204
