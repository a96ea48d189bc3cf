"""Of the processes that share one socket, one that is at nothing answers who comes."""

import http.client
import socket
import threading
import time
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from waitress import create_server

from ridgeback import serve


class Two:
    """Two servers on one socket, as two processes are; each says its number, and is held up where one asks it to be slow."""

    def __init__(self) -> None:
        self.clocks, self.ending = serve.Clocks(2), threading.Event()
        self.begun, self.let_go = threading.Event(), threading.Event()
        self.shared = socket.socket()
        self.shared.bind(("127.0.0.1", 0))
        self.shared.listen(64)
        self.port = self.shared.getsockname()[1]
        self.threads = [threading.Thread(target=self._serve, args=(number,)) for number in range(2)]
        for thread in self.threads:
            thread.start()
        until = time.monotonic() + 20
        while not all(self.clocks.another_is_free(number) for number in range(2)):  # one that does not run yet is not free
            assert time.monotonic() < until
            time.sleep(0.01)

    def _serve(self, number: int) -> None:
        def application(environ: dict[str, Any], start_response: Callable[..., Any]) -> list[bytes]:
            if environ["PATH_INFO"] == "/slow":
                self.begun.set()
                self.let_go.wait(30)
            start_response("200 OK", [("Content-Type", "text/plain")])
            return [str(number).encode()]

        watched = self.clocks.watched(application, number)
        server = create_server(watched, sockets=[self.shared.dup()], threads=serve.THREADS, asyncore_use_poll=True)
        self.clocks.all_set(number, serve.IDLE)
        serve.serve_until(server, self.ending, lambda: self.clocks.another_is_free(number))

    def ask(self, path: str) -> http.client.HTTPConnection:
        made = http.client.HTTPConnection("127.0.0.1", self.port, timeout=20)
        made.request("GET", path)
        return made

    def answered_by(self, path: str = "/") -> int:
        return int(self.ask(path).getresponse().read())


@pytest.fixture
def two() -> Iterator[Two]:
    made = Two()
    yield made
    made.let_go.set()
    made.ending.set()
    for thread in made.threads:
        thread.join(timeout=20)
    made.shared.close()


def test_who_comes_is_answered_by_the_one_that_is_at_nothing(two: Two) -> None:
    slow = two.ask("/slow")
    assert two.begun.wait(10)
    others = {two.answered_by() for _ in range(12)}
    two.let_go.set()
    assert others == {1 - int(slow.getresponse().read())}


def test_where_the_other_does_not_run_or_is_at_work_too_the_busy_one_answers(two: Two) -> None:
    slow = two.ask("/slow")
    assert two.begun.wait(10)
    free = two.answered_by()
    two.clocks.all_set(free, serve.DOWN)
    assert two.answered_by() in {0, 1}  # the free one of this test listens still: somebody answers, and at once
    both = [two.ask("/slow") for _ in range(2)]
    assert two.answered_by() in {0, 1}
    two.let_go.set()
    assert {int(one.getresponse().read()) for one in (slow, *both)} <= {0, 1}
