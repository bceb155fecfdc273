"""The command: what it says when it cannot start, and that it then leaves cleanly."""

from __future__ import annotations

import socket
import subprocess
import sys
import time

import psutil
import pytest

from hollow_glint import __version__
from hollow_glint.cli import PRACTICE_AFTER_S
from hollow_glint.store import database as databases
from tests.running import running_server


def run(*arguments: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "hollow_glint", *arguments], capture_output=True, text=True, timeout=30, check=False
    )


def refused(done, *said):
    assert done.returncode == 2, done.stderr
    assert "Traceback" not in done.stderr
    for word in said:
        assert word in done.stderr


def test_a_pace_that_is_none():
    refused(run("demo", "--pace", "0"), "--pace is 0", "1 to 10")


def test_version():
    assert run("version").stdout.strip() == __version__


def test_a_port_in_use(tmp_path):
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = str(taken.getsockname()[1])
        refused(run("demo", "--no-browser", "--data", str(tmp_path), "--port", port), port, "--port")


@pytest.mark.parametrize("port", ["0", "70000", "x"])
def test_a_port_that_is_none(port):
    refused(run("demo", "--no-browser", "--port", port), port)


def test_a_host_that_is_none(tmp_path):
    refused(run("demo", "--no-browser", "--data", str(tmp_path), "--host", "300.1.1.1"), "--host is '300.1.1.1'")


def test_others_are_let_in_as_a_crew_or_not_at_all(tmp_path):
    for host in ("0.0.0.0", "::", "192.0.2.7"):
        refused(run("serve", "--no-browser", "--data", str(tmp_path), "--host", host), host, "--crew", "by invitation")
    refused(run("serve", "--no-browser", "--data", str(tmp_path), "--tls", "a.pem", "a.key"), "--tls", "--crew")
    refused(
        run("serve", "--no-browser", "--data", str(tmp_path), "--crew", "--host", "300.1.1.1"), "--host is '300.1.1.1'"
    )
    given = ("serve", "--no-browser", "--data", str(tmp_path), "--crew", "--tls", "no.pem", "no.key")
    refused(run(*given), "no.pem no.key cannot be used", "PEM")
    assert not list(tmp_path.glob("*.sqlite3-wal"))


def test_a_file_that_is_not_ours(tmp_path):
    (tmp_path / "demo.sqlite3").write_text("not a database, only words, and a good many of them at that")
    refused(run("demo", "--no-browser", "--data", str(tmp_path)), "is not a Hollow Glint database", "--data")


def test_a_newer_file(tmp_path):
    store = databases.Database(tmp_path / "demo.sqlite3")
    store.connection().execute("PRAGMA user_version = 999")
    store.close()
    refused(run("demo", "--no-browser", "--data", str(tmp_path)), "newer Hollow Glint")


def test_a_folder_that_cannot_be_written(tmp_path):
    (tmp_path / "file").write_text("in the way")
    refused(run("serve", "--no-browser", "--data", str(tmp_path / "file" / "in")), "cannot be made", "--data")


def test_serve_starts_empty_but_with_gear(tmp_path):
    with running_server(tmp_path, command="serve") as running:
        assert running.ask("GET", "/api/holes")[1]["holes"] == []
        assert running.ask("GET", "/api/units")[1]["units"] and running.ask("GET", "/api/lures")[1]["lures"]
        assert (tmp_path / "hollow-glint.sqlite3").exists()


def children_within(running, seconds: float) -> bool:
    """Whether the program starts a process of its own within so many seconds."""
    program, until = psutil.Process(running.process.pid), time.monotonic() + seconds
    while time.monotonic() < until:
        if program.children():
            return True
        time.sleep(0.05)
    return False


def test_what_was_practised_is_made_beside_the_program_and_only_once(tmp_path):
    """It begins after the start, which it would slow down; a start that finds it there has nothing to do."""
    with running_server(tmp_path) as first:
        assert children_within(first, 20.0)
    store = databases.Database(tmp_path / "demo.sqlite3")
    with store.transaction() as connection:
        connection.execute("INSERT INTO seeding (name, done_at) VALUES ('demo practice', datetime('now'))")
    store.close()
    with running_server(tmp_path) as again:
        assert not children_within(again, PRACTICE_AFTER_S + 1.0)
