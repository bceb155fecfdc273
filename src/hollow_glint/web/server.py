"""Serving: waitress, told to send every frame at once, to notice readers that have gone, and to bear a crowd."""

from __future__ import annotations

import logging
import socket
from typing import Any

from flask_openapi3 import OpenAPI
from waitress.channel import HTTPChannel
from waitress.server import create_server
from waitress.task import ErrorTask

from ..formats.recording_fields import MOST_FILE_BYTES
from ..store.crew import MOST_MEMBERS
from .bench.live import MOST_LIVE
from .contract import Problem
from .guard import SECURITY_HEADERS
from .problems import TITLES

# Every stream holds a thread for as long as it is read; the rest are for commands and pages.
THREADS = MOST_LIVE + 8
CREW_THREADS = 2 * MOST_MEMBERS + 4  # each member waits for news, and asks besides
MOST_CONNECTIONS = 4000  # that do nothing, or drip: each costs a descriptor and no thread
IDLE_S = 20  # a connection that asks nothing for so long is closed

# What the server itself refuses before the application sees it, in words.
REFUSED = {
    400: "The request could not be read: it is no well-formed HTTP.",
    413: f"The body is too large; {MOST_FILE_BYTES // 2**20} MB is the most that any address accepts.",
    431: "The request's head is too large.",
    501: "The request uses a transfer coding that is not known here.",
}


class ProblemTask(ErrorTask):  # type: ignore[misc]
    """Answers an error of the server library's own as the application answers its errors."""

    def execute(self) -> None:
        error = self.request.error
        detail = REFUSED.get(error.code, "The server met an error of its own. Nothing was written.")
        document = Problem(title=TITLES.get(error.code, "Problem"), status=error.code, detail=detail)
        body = document.model_dump_json().encode()
        self.status = f"{error.code} {error.reason}"
        self.response_headers.extend(SECURITY_HEADERS.items())
        self.response_headers.extend([("Content-Type", "application/problem+json"), ("Cache-Control", "no-store")])
        self.set_close_on_finish()
        self.content_length = len(body)
        self.write(body)


class Channel(HTTPChannel):  # type: ignore[misc]
    """A connection whose errors are problem documents."""

    error_task_class = ProblemTask


def _more_descriptors() -> int:
    """Ask the system for as many descriptors as connections may be open; how many connections that leaves room for."""
    try:
        import resource
    except ImportError:  # no such limit on this system
        return MOST_CONNECTIONS
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    wanted = MOST_CONNECTIONS + 200
    if soft < wanted:
        soft = wanted if hard == resource.RLIM_INFINITY else min(wanted, hard)
        try:
            resource.setrlimit(resource.RLIMIT_NOFILE, (soft, hard))
        except (ValueError, OSError):
            soft = resource.getrlimit(resource.RLIMIT_NOFILE)[0]
    return max(min(soft - 200, MOST_CONNECTIONS), 100)


def make_server(app: OpenAPI, host: str, port: int) -> Any:
    """A waitress server bound to host and port, not yet running. Raises OSError if the address cannot be had."""
    threads = THREADS + (CREW_THREADS if app.config["crew"] else 0)
    options = [(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)]
    if hasattr(socket, "TCP_USER_TIMEOUT"):
        # A reader that vanished without a word is given up after five seconds of silence.
        options.append((socket.IPPROTO_TCP, socket.TCP_USER_TIMEOUT, 5000))
    server = create_server(
        app,
        host=host,
        port=port,
        threads=threads,
        send_bytes=1,
        ident="hollow-glint",
        # The largest file that is taken in, and a little; the application refuses the rest by its address.
        max_request_body_size=MOST_FILE_BYTES + 4096,
        connection_limit=_more_descriptors(),
        backlog=1024,
        asyncore_use_poll=True,
        channel_timeout=IDLE_S,
        cleanup_interval=5,
        clear_untrusted_proxy_headers=True,
    )
    server.channel_class = Channel
    # waitress takes these from its adjustments but offers no argument for them.
    server.adj.socket_options = options
    # It warns whenever more requests wait than there are idle threads; short waits are normal here.
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)
    return server


class Secured:
    """The same over TLS, by the library cheroot: with a certificate and key of one's own, as PEM files.

    Raises OSError where they cannot be read or do not fit, or the address cannot be had.
    """

    def __init__(self, app: OpenAPI, host: str, port: int, certificate: str, key: str) -> None:
        import ssl

        from cheroot.ssl.builtin import BuiltinSSLAdapter
        from cheroot.wsgi import Server

        # Said here in words of the system's, and not in the middle of the first connection.
        ssl.create_default_context(ssl.Purpose.CLIENT_AUTH).load_cert_chain(certificate, key)
        self._server = Server((host, port), app, numthreads=THREADS + CREW_THREADS, server_name="hollow-glint")
        self._server.ssl_adapter = BuiltinSSLAdapter(certificate, key)
        self._server.max_request_body_size = MOST_FILE_BYTES + 4096
        self._server.prepare()

    def run(self) -> None:
        """Serve until interrupted."""
        self._server.serve()

    def close(self) -> None:
        """Serve no more."""
        self._server.stop()
