"""Serving: waitress, told to send every frame at once and to notice readers that have gone."""

from __future__ import annotations

import socket
from typing import Any

from waitress.server import create_server

from ..formats.recording_fields import MOST_FILE_BYTES
from .app import OpenAPI
from .live import MOST_LIVE

# Every stream holds a thread for as long as it is read; the rest are for commands and pages.
THREADS = MOST_LIVE + 8


def make_server(app: OpenAPI, host: str, port: int) -> Any:
    """A waitress server bound to host and port, not yet running. Raises OSError if the address cannot be had."""
    options = [(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)]
    if hasattr(socket, "TCP_USER_TIMEOUT"):
        # A reader that vanished without a word is given up after five seconds of silence.
        options.append((socket.IPPROTO_TCP, socket.TCP_USER_TIMEOUT, 5000))
    server = create_server(
        app,
        host=host,
        port=port,
        threads=THREADS,
        send_bytes=1,
        ident="hollow-glint",
        # The largest file that is taken in, and a little; the application refuses the rest by its address.
        max_request_body_size=MOST_FILE_BYTES + 4096,
        channel_timeout=60,
        clear_untrusted_proxy_headers=True,
    )
    # waitress takes these from its adjustments but offers no argument for them.
    server.adj.socket_options = options
    return server
