"""The HTTP server: one process, requests taken in whole by one loop, answered by threads.

Nobody holds a thread by sending slowly or by not reading: the loop buffers both ways, and a request that does not
arrive in time is dropped. One process, because what is under way, kept and waited for is known in its memory only.
"""

from __future__ import annotations

import gc
import logging
import os
import signal
import socket
import sys
import time
from http.client import HTTPConnection, HTTPException
from typing import Any

from waitress.channel import HTTPChannel
from waitress.server import create_server
from waitress.task import ErrorTask

log = logging.getLogger("thermaxis")
HOST = "127.0.0.1"
LOOPBACK = ("127.0.0.1", "::1")
THREADS = 24
MOST_CONNECTIONS, MOST_EACH = 500, 64
# A head arrives within this; a body as fast as a bad line brings it.
HEAD_S, SLOWEST_BYTES_PER_S = 15.0, 40_000.0
SWITCH_S = 0.0005
COLLECT = (20_000, 20, 20)
# Above every limit `api.edge` has: there a refusal has words of its own.
MOST_BYTES = 66_000_000


class ProblemTask(ErrorTask):
    """What the server itself refuses, worded as everything else is."""

    def execute(self) -> None:
        """Write the answer and close."""
        # Loaded by the application already; before it there is nothing to answer.
        from thermaxis.api.problems import MEDIA_TYPE, usual

        error = self.request.error
        self.status = f"{error.code} {error.reason}"
        self.response_headers.append(("Content-Type", MEDIA_TYPE))
        self.set_close_on_finish()
        body = usual(error.code).content
        self.content_length = len(body)
        self.write(body)


class Channel(HTTPChannel):
    """One connection; it knows since when the request it is receiving has been on its way."""

    error_task_class = ProblemTask
    began: float | None = None

    def __init__(self, server: Any, sock: socket.socket, addr: Any, adj: Any, map: Any = None) -> None:
        super().__init__(server, sock, addr, adj, map=map)
        others = sum(channel.addr[0] == addr[0] for channel in server.active_channels.values())
        # A proxy on this machine brings everybody's connections.
        if others > MOST_EACH and addr[0] not in LOOPBACK:
            self.will_close = True

    def received(self, data: bytes) -> bool:
        """Take in what has come."""
        taken = bool(super().received(data))
        if self.request is None:
            self.began = None
        elif self.began is None:
            self.began = time.monotonic()
        return taken

    def too_slow(self, now: float) -> bool:
        """Whether what is arriving has taken longer than any honest line takes."""
        request = self.request
        if request is None or self.began is None:
            return False
        return bool(now - self.began > HEAD_S + request.content_length / SLOWEST_BYTES_PER_S)


def _watch(server: Any) -> None:
    """Let the server's own housekeeping drop what arrives too slowly as well."""
    idle = server.maintenance

    def maintenance(now: float) -> None:
        idle(now)
        for channel in list(server.active_channels.values()):
            if channel.too_slow(time.monotonic()):
                log.info("a request that did not arrive in time was dropped")
                channel.will_close = True

    server.maintenance = maintenance


def listen(host: str, port: int) -> socket.socket | None:
    """A listening socket, or None where the port is taken.

    Bound before the application is loaded, so that the address works from the moment it is printed: whoever comes
    before the engine is warm waits in the queue.
    """
    listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((host, port))
    except OSError:
        listener.close()
        return None
    listener.listen(256)
    return listener


def run(listener: socket.socket) -> None:
    """Serve the application on a listening socket until the process is told to end."""
    from django.conf import settings

    from thermaxis.config.wsgi import application

    # Who asks is what the proxy says, where there is one; without one the header would be anybody's word.
    trusted = os.environ.get("THERMAXIS_PROXY") or HOST
    proxy = {"trusted_proxy": trusted, "trusted_proxy_headers": {"x-forwarded-for", "x-forwarded-proto"}}
    server: Any = create_server(
        application,
        **(proxy if settings.HTTPS else {}),
        sockets=[listener],
        threads=THREADS,
        ident=None,
        connection_limit=MOST_CONNECTIONS,
        asyncore_use_poll=True,
        channel_timeout=60,
        cleanup_interval=5,
        max_request_header_size=32_768,
        max_request_body_size=MOST_BYTES,
        channel_request_lookahead=1,
        log_socket_errors=False,
        clear_untrusted_proxy_headers=False,
    )
    server.channel_class = Channel
    _watch(server)

    def end(*_: object) -> None:
        raise SystemExit(0)

    signal.signal(signal.SIGTERM, end)
    # Whoever only reads takes the interpreter back many times; each time somebody who computes may keep it this long.
    sys.setswitchinterval(SWITCH_S)
    # Looking through everything there is for what can go stops everybody: what stays for good is left out of it, and
    # the young are let grow older before it.
    gc.collect()
    gc.freeze()
    gc.set_threshold(*COLLECT)
    server.run()


def already_serving(port: int) -> bool:
    """Whether a Thermaxis answers on the port already."""
    try:
        connection = HTTPConnection(HOST, port, timeout=60)
        connection.request("GET", "/api/session")
        answer = connection.getresponse()
        body = answer.read()
    except (OSError, HTTPException):
        return False
    return b"workshop" in body or b"/problems/sign-in" in body


def port_asked() -> int:
    """On which port to serve."""
    return int(os.environ.get("PORT", "8321"))


def bound_to() -> str:
    """Of which of this machine's addresses it listens: its own alone, unless it is told to be there for others."""
    return os.environ.get("THERMAXIS_BIND") or HOST


def serve(what: str, command: str) -> int:
    """Print the address and become the server; a second start finds the first one and leaves it alone."""
    port = port_asked()
    address = f"http://{HOST}:{port}/"
    listener = listen(bound_to(), port)
    if listener is None:
        if already_serving(port):
            print(f"Thermaxis is running already: {address}")
            return 0
        print(f"Port {port} is taken by another program: choose one with PORT=8400 {command}", file=sys.stderr)
        return 1
    if not _alone():
        listener.close()
        return 1
    print(f"{what}: {address}  (stop with Ctrl-C)", flush=True)
    _prepare()
    run(listener)
    return 0


def _alone() -> bool:
    """Take the folder of the database; two servers on it would each keep in memory what the other changes."""
    from thermaxis.config.alone import hold
    from thermaxis.config.settings import VAR

    if hold(VAR):
        return True
    print(
        f"Another server works on {VAR} already. One process serves one folder: what is under way, kept and waited for "
        "is in its memory. Stop that one first, or give this one a folder of its own with THERMAXIS_VAR.",
        file=sys.stderr,
    )
    return False


def _prepare() -> None:
    """Before the first request: what a killed process left goes, the first person is told where to begin."""
    import django

    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "thermaxis.config.settings")
    django.setup()
    from django.db import connection

    from thermaxis.apps.accounts.public import public_address
    from thermaxis.apps.people.addresses import found_address
    from thermaxis.apps.safekeeping import nightly
    from thermaxis.apps.safekeeping.backing_up import clear_workroom

    clear_workroom()
    secret = found_address()
    if secret is not None:
        print(f"Nobody works here yet. The first person begins at {public_address()}join#{secret}", flush=True)
    connection.close()
    # The demo is there to be looked at: nobody needs its nights.
    if not os.environ.get("THERMAXIS_DEMO_SIGN_IN"):
        nightly.start()


def unsafe() -> list[str]:
    """Why this is not served: settings for trying things out, hosts anybody may name, several processes."""
    from thermaxis.config import settings

    found = [
        f"{name} is set: that is for the demo and for development"
        for name in ("THERMAXIS_DEBUG", "THERMAXIS_DEMO_SIGN_IN")
        if os.environ.get(name)
    ]
    if "*" in settings.ALLOWED_HOSTS:
        found.append("THERMAXIS_HOSTS allows any host: name those people use, else links can be made to lead elsewhere")
    if any(origin.startswith("https://") for origin in settings.CSRF_TRUSTED_ORIGINS) and not settings.HTTPS:
        found.append(
            "THERMAXIS_ORIGINS is reached by https, and THERMAXIS_HTTPS is not set: cookies would go unguarded"
        )
    if bound_to() not in LOOPBACK and not os.environ.get("THERMAXIS_HOSTS"):
        found.append(
            f"THERMAXIS_BIND is {bound_to()}, which others reach: name by THERMAXIS_HOSTS what they call this machine"
        )
    workers = os.environ.get("WEB_CONCURRENCY", "1")
    if workers != "1":
        found.append(
            f"WEB_CONCURRENCY is {workers}: one process serves, with threads, for progress and what is kept are in its "
            "memory"
        )
    return found


def main() -> int:
    """Serve what is in the database; refuses what is unsafe, with the reason."""
    reasons = unsafe()
    if reasons:
        print("Not served:", file=sys.stderr)
        for reason in reasons:
            print(f"- {reason}.", file=sys.stderr)
        return 1
    os.umask(0o077)
    return serve("Thermaxis", "make serve")


if __name__ == "__main__":
    sys.exit(main())
