"""How the program is asked to end: by Ctrl-C, or by a SIGTERM as a service manager sends it."""

from __future__ import annotations

import _thread
import signal
import threading


class Ending:
    """Raises KeyboardInterrupt in the main thread when asked to end, and again until the server has been left.

    Once is not enough: Python throws away whatever is raised while a file or socket is being finalized, and the main
    thread does that whenever a connection goes. `again_s` [s] is longer than the server takes to be left.
    """

    def __init__(self, again_s: float) -> None:
        self._again_s = again_s
        self._left = False
        self._again: threading.Thread | None = None

    def listen(self) -> None:
        """Take both signals from now on. In the main thread only."""
        signal.signal(signal.SIGTERM, self._asked)
        signal.signal(signal.SIGINT, self._asked)

    def left(self) -> None:
        """The server has been left: what closes after it is not disturbed, but by a Ctrl-C of who will not wait."""
        self._left = True

    def _asked(self, number: int, _frame: object) -> None:
        if self._left and number != signal.SIGINT:
            return
        if self._again is None:
            self._again = threading.Thread(target=self._ask_again, daemon=True, name="ending")
            self._again.start()
        raise KeyboardInterrupt

    def _ask_again(self) -> None:
        waits = threading.Event()  # never set
        while not self._left:
            waits.wait(self._again_s)
            if self._left:
                return
            if hasattr(signal, "pthread_kill"):
                signal.pthread_kill(threading.main_thread().ident or 0, signal.SIGTERM)  # wakes it, too
            else:
                _thread.interrupt_main(signal.SIGTERM)
