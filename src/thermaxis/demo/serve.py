"""Serve the demo on the loopback address; a second start finds the first one and leaves it alone."""

from __future__ import annotations

import os
import socket
import sys
from http.client import HTTPConnection, HTTPException
from pathlib import Path

HOST = "127.0.0.1"


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


def listen(port: int) -> socket.socket | None:
    """A listening socket that outlives exec, or None where the port is taken.

    Bound before the server is started, so that the address works from the moment it is printed: whoever comes
    before the engine is warm waits in the queue.
    """
    listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((HOST, port))
    except OSError:
        listener.close()
        return None
    listener.listen(64)
    listener.set_inheritable(True)
    return listener


def main() -> int:
    """Print the address and become the server."""
    port = int(os.environ.get("PORT", "8321"))
    address = f"http://{HOST}:{port}/"
    listener = listen(port)
    if listener is None:
        if already_serving(port):
            print(f"Thermaxis is running already: {address}")
            return 0
        print(f"Port {port} is taken by another program: choose one with PORT=8400 make demo", file=sys.stderr)
        return 1
    print(f"Thermaxis with the demo data: {address}  (stop with Ctrl-C)", flush=True)
    environment = {**os.environ, "THERMAXIS_DEMO_SIGN_IN": "1"}
    gunicorn = str(Path(sys.executable).with_name("gunicorn"))
    options = [
        "--bind",
        f"fd://{listener.fileno()}",
        "--threads",
        "12",
        "--no-control-socket",
        "--log-level",
        "warning",
    ]
    # A cold engine compiles for half a minute inside the worker: not a worker that hangs.
    options += ["--timeout", "180"]
    return os.execve(gunicorn, [gunicorn, *options, "thermaxis.config.wsgi:application"], environment)


if __name__ == "__main__":
    sys.exit(main())
