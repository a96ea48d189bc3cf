"""A line between the browser and the server that can be cut: the browser's own emulated cut lets some requests through."""

import contextlib
import socket
import threading
from typing import Final

CHUNK: Final = 65_536
HOST: Final = "localhost"


class Line:
    """Carries bytes from a port of its own to a server's, until it is cut, and again when it is mended. Loopback only."""

    def __init__(self, port: int) -> None:
        self.to = port
        self.port = 0
        self._gate: socket.socket | None = None
        self._ends: set[socket.socket] = set()
        self.mend()

    @property
    def url(self) -> str:
        return f"http://{HOST}:{self.port}"

    def mend(self) -> None:
        """Listen, at the same port as before."""
        self._gate = socket.create_server((HOST, self.port))
        self.port = self._gate.getsockname()[1]
        threading.Thread(target=self._listen, args=(self._gate,), daemon=True).start()

    def cut(self) -> None:
        """Refuse whoever calls, and hang up on who is connected."""
        gate, self._gate = self._gate, None
        for end in [gate, *self._ends]:
            if end is not None:
                _closed(end)
        self._ends.clear()

    def _listen(self, gate: socket.socket) -> None:
        with contextlib.suppress(OSError):  # it was cut
            while True:
                near, _from = gate.accept()
                far = socket.create_connection((HOST, self.to))
                self._ends |= {near, far}
                for source, sink in ((near, far), (far, near)):
                    threading.Thread(target=self._carry, args=(source, sink), daemon=True).start()

    def _carry(self, source: socket.socket, sink: socket.socket) -> None:
        with contextlib.suppress(OSError):
            while data := source.recv(CHUNK):
                sink.sendall(data)
        for end in (source, sink):
            self._ends.discard(end)
            _closed(end)


def _closed(end: socket.socket) -> None:
    with contextlib.suppress(OSError):
        end.shutdown(socket.SHUT_RDWR)
    end.close()
