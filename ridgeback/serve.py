"""The web server: `python -m ridgeback.serve --socket 3`, started by the launcher or by systemd.

A few processes share one socket, each with waitress inside.

waitress reads a whole request and writes a whole answer by itself, in one loop for all connections: who sends slowly, or nothing
at all, holds no thread (docs/decisions/0034). What dies is started again, with growing pauses; a process with a request that will
not end is replaced.
"""

import argparse
import logging
import mmap
import os
import signal
import socket
import struct
import sys
import tempfile
import threading
import time
from collections.abc import Callable, Iterable
from typing import Any, Final

PROCESSES: Final = 2
THREADS: Final = 4
CONNECTIONS: Final = 800  # a process; each costs a file descriptor, none a thread
IDLE_S: Final = 20  # a connection on which nothing comes or goes
MOST_HEADER_BYTES: Final = 16_384
MOST_BODY_BYTES: Final = 20_200_000  # a little above what the application itself takes: a photo, a logger's year
REQUEST_S: Final = 90.0  # the longest request: beyond that its process is replaced
LONGEST_PAUSE_S: Final = 30.0
LOOP_S: Final = 0.5  # how late a process notices that it is to end
LEFT_S: Final = 0.02  # how soon a process that left new connections to another looks whether that one is still free
LINGERS_S: Final = 1.0  # for what is connected and has not asked yet
ENDS_S: Final = 12.0  # for what was begun then; the launcher waits for fifteen
SLOT: Final = struct.Struct("d")
IDLE, DOWN = 0.0, -1.0  # what a slot holds instead of a time: nothing is asked, nothing runs
Application = Callable[[dict[str, Any], Callable[..., Any]], Iterable[bytes]]


class Clocks:
    """When each thread of each process began the request it is at, in memory that all of them share."""

    def __init__(self, processes: int) -> None:
        self.size, self.processes = THREADS * SLOT.size, processes
        self.memory = mmap.mmap(-1, processes * self.size)
        for process in range(processes):
            self.all_set(process, DOWN)

    def watched(self, application: Application, process: int) -> Application:
        """The application with its requests timed."""
        free, lock = list(range(THREADS)), threading.Lock()

        def answer(environ: dict[str, Any], start_response: Callable[..., Any]) -> Iterable[bytes]:
            with lock:
                place = free.pop() if free else None
            if place is not None:
                self._set(process, place, time.monotonic())
            try:
                return application(environ, start_response)
            finally:
                if place is not None:
                    self._set(process, place, IDLE)
                    with lock:
                        free.append(place)

        return answer

    def _set(self, process: int, place: int, began: float) -> None:
        SLOT.pack_into(self.memory, process * self.size + place * SLOT.size, began)

    def _begun(self, process: int) -> list[float]:
        return [SLOT.unpack_from(self.memory, process * self.size + place * SLOT.size)[0] for place in range(THREADS)]

    def stuck(self, process: int, now: float) -> bool:
        """Tell whether a request of a process has gone on for too long."""
        return any(began > IDLE and now - began > REQUEST_S for began in self._begun(process))

    def another_is_free(self, process: int) -> bool:
        """Tell whether there is a process besides this one that runs and is at nothing."""
        return any(not any(self._begun(other)) for other in range(self.processes) if other != process)

    def all_set(self, process: int, to: float) -> None:
        """Say of a whole process that nothing is asked of it, or that it does not run."""
        for place in range(THREADS):
            self._set(process, place, to)


def listen(handed_over: int) -> socket.socket:
    """The one socket: the launcher, or systemd, has bound it and hands it over by its descriptor."""
    made = socket.socket(fileno=handed_over)
    made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)  # or the next start would wait for connections just closed
    made.listen(1024)
    return made


def run_process(application: Application, shared: socket.socket, proxy: str, clocks: Clocks, number: int) -> None:
    """Answer requests until told to stop, or until the master is gone."""
    from django.db import connections
    from waitress import create_server

    # A request that waits for a moment is no news to who reads the terminal.
    logging.getLogger("waitress.queue").setLevel(logging.ERROR)

    connections.close_all()
    master = os.getppid()

    def watch_master() -> None:
        while os.getppid() == master:
            time.sleep(1)
        os._exit(1)

    threading.Thread(target=watch_master, daemon=True).start()
    ending = threading.Event()
    signal.signal(signal.SIGTERM, lambda number, frame: ending.set())
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # Ctrl-C goes to the whole group; the launcher says when
    behind: dict[str, Any] = {}
    if proxy:  # it speaks TLS and says so
        behind = {
            "trusted_proxy": proxy,
            "trusted_proxy_headers": {"x-forwarded-proto", "x-forwarded-for", "x-forwarded-host"},
        }
    server = create_server(
        clocks.watched(application, number),
        sockets=[shared],
        threads=THREADS,
        connection_limit=CONNECTIONS,
        channel_timeout=IDLE_S,
        cleanup_interval=5,
        max_request_header_size=MOST_HEADER_BYTES,
        max_request_body_size=MOST_BODY_BYTES,
        asyncore_use_poll=True,
        ident=None,
        log_socket_errors=False,
        **behind,
    )
    clocks.all_set(number, IDLE)
    serve_until(server, ending, lambda: clocks.another_is_free(number))


def serve_until(server: Any, ending: threading.Event, another_is_free: Callable[[], bool] = lambda: False) -> None:
    """Answer until told to end; then take nothing new, and go when what was begun is answered and sent, or its time is over.

    Who comes while something is being answered here is left to another process that is free: two requests in one process
    take turns at one core, whatever the others do.
    """
    from waitress import wasyncore

    takes, accept, left = server.readable, server.handle_accept, False

    def leaves() -> bool:
        return any(channel.requests for channel in list(server.active_channels.values())) and another_is_free()

    def turn() -> None:
        nonlocal left
        left = leaves()
        wasyncore.loop(timeout=LEFT_S if left else LOOP_S, map=server._map, use_poll=True, count=1)

    server.readable = lambda: takes() and not left
    server.handle_accept = lambda: None if leaves() else accept()  # the other may have become free while one waited

    while not ending.is_set():
        turn()
    server.del_channel()  # the listening socket: who comes now is served by whatever starts next
    server.socket.close()
    began = time.monotonic()
    while (passed := time.monotonic() - began) < ENDS_S:
        # What was connected a moment ago has sent nothing yet, and a proxy may be about to use a connection that it keeps.
        if passed > LINGERS_S and not any(busy(channel) for channel in list(server.active_channels.values())):
            break
        turn()
    server.task_dispatcher.shutdown(cancel_pending=True, timeout=1)


def busy(channel: Any) -> bool:
    """Tell whether a connection has a request that is not answered, or an answer that is not sent."""
    return bool(channel.requests or channel.total_outbufs_len or channel.request is not None)


class Master:
    """Starts the processes, and starts again what dies."""

    def __init__(self, application: Application, shared: socket.socket, proxy: str) -> None:
        self.application, self.shared, self.proxy = application, shared, proxy
        self.clocks = Clocks(PROCESSES)
        self.running: dict[int, int] = {}  # process number by pid
        self.deaths: dict[int, list[float]] = {number: [] for number in range(PROCESSES)}
        self.waiting: dict[int, float] = dict.fromkeys(range(PROCESSES), 0.0)  # when to start each again
        self.stopping = False

    def start(self, number: int) -> None:
        pid = os.fork()
        if pid == 0:
            try:
                run_process(self.application, self.shared, self.proxy, self.clocks, number)
            finally:
                os._exit(0)
        self.running[pid] = number

    def run(self) -> None:
        """Until SIGTERM."""
        signal.signal(signal.SIGTERM, self._stop)
        signal.signal(signal.SIGINT, signal.SIG_IGN)
        while not self.stopping:
            now = time.monotonic()
            for number, when in list(self.waiting.items()):
                if when <= now:
                    del self.waiting[number]
                    self.start(number)
            self._reap()
            for pid, number in list(self.running.items()):
                if self.clocks.stuck(number, now):
                    print("A request would not end; its process is replaced.", file=sys.stderr, flush=True)
                    os.kill(pid, signal.SIGKILL)
                    self.clocks.all_set(number, DOWN)
            time.sleep(0.1)
        for pid in list(self.running):
            os.kill(pid, signal.SIGTERM)
        while self.running:
            self._reap()
            time.sleep(0.05)

    def _reap(self) -> None:
        for pid in list(self.running):
            done, _status = os.waitpid(pid, os.WNOHANG)
            if not done:
                continue
            number, now = self.running.pop(pid), time.monotonic()
            self.clocks.all_set(number, DOWN)
            recent = [moment for moment in self.deaths[number] if now - moment < 300.0]
            self.deaths[number] = [*recent, now]
            if not self.stopping:
                self.waiting[number] = now + min(0.2 * 2 ** len(recent), LONGEST_PAUSE_S)

    def _stop(self, number: int, frame: object) -> None:
        self.stopping = True


def main() -> int:
    parser = argparse.ArgumentParser(prog="python -m ridgeback.serve")
    parser.add_argument("--socket", type=int, required=True, help="the descriptor of a bound socket")
    handed_over = parser.parse_args().socket
    os.environ["RIDGEBACK_SERVING"] = "true"
    with tempfile.TemporaryDirectory(prefix="ridgeback-figures-") as figures:
        os.environ["PROMETHEUS_MULTIPROC_DIR"] = figures  # all processes count into it; named before they are loaded
        return _serve(handed_over)


def _serve(handed_over: int) -> int:
    from ridgeback.wsgi import application

    shared = listen(handed_over)
    from django.conf import settings

    Master(application, shared, settings.PROXY if settings.HTTPS else "").run()
    return 0


if __name__ == "__main__":
    sys.exit(main())
