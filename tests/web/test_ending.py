"""A process that is to end answers what was begun, whole, and takes nothing new."""

import http.client
import socket
import threading
import time
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from waitress import create_server

from ridgeback import serve

BODY = b"x" * 3_000_000
Ask = Callable[[str], http.client.HTTPConnection]


@pytest.fixture
def served() -> Iterator[tuple[Ask, threading.Event, threading.Thread, threading.Event]]:
    """A server with a slow page and a quick one."""
    begun = threading.Event()

    def application(environ: dict[str, Any], start_response: Callable[..., Any]) -> list[bytes]:
        if environ["PATH_INFO"] == "/slow":
            begun.set()
            time.sleep(1.2)
        start_response("200 OK", [("Content-Type", "text/plain"), ("Content-Length", str(len(BODY)))])
        return [BODY]

    shared = socket.socket()
    shared.bind(("127.0.0.1", 0))
    shared.listen(16)
    port = shared.getsockname()[1]
    server = create_server(application, sockets=[shared], threads=2, asyncore_use_poll=True)
    ending = threading.Event()
    thread = threading.Thread(target=serve.serve_until, args=(server, ending))
    thread.start()

    def ask(path: str) -> http.client.HTTPConnection:
        made = http.client.HTTPConnection("127.0.0.1", port, timeout=20)
        made.request("GET", path)
        return made

    yield ask, ending, thread, begun
    ending.set()
    thread.join(timeout=20)


def test_what_was_begun_is_answered_whole_and_nothing_new_is_taken(served: Any) -> None:
    ask, ending, thread, begun = served
    quick = ask("/quick")
    assert len(quick.getresponse().read()) == len(BODY)  # its connection stays open, and holds nobody up
    slow = ask("/slow")
    assert begun.wait(10)
    ending.set()
    time.sleep(serve.LOOP_S + 0.3)
    with pytest.raises(OSError, match=r"refused|reset"):
        ask("/new").getresponse()
    assert slow.getresponse().read() == BODY
    thread.join(timeout=5)
    assert not thread.is_alive()


@pytest.mark.sweep
def test_who_was_connected_and_asks_a_moment_later_is_answered(served: Any) -> None:
    ask, ending, thread, _begun = served
    kept = ask("/quick")
    kept.getresponse().read()
    port = kept.sock.getpeername()[1]
    fresh = http.client.HTTPConnection("127.0.0.1", port, timeout=20)
    fresh.connect()
    time.sleep(0.2)
    ending.set()
    time.sleep(serve.LINGERS_S / 3)
    for connection in (kept, fresh):
        connection.request("GET", "/quick")
        assert len(connection.getresponse().read()) == len(BODY)
    thread.join(timeout=5)
    assert not thread.is_alive()


def test_nobody_who_sends_for_ever_keeps_it(served: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(serve, "ENDS_S", 0.5)
    ask, ending, thread, _begun = served
    held = ask("/quick")
    held.getresponse().read()
    assert held.sock is not None
    held.sock.sendall(b"GET /quick HTTP/1.1\r\nHost: a\r\n")  # and no end of it
    time.sleep(0.3)
    ending.set()
    thread.join(timeout=5)
    assert not thread.is_alive()
