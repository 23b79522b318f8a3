"""Serve the demo on the loopback address; a second start finds the first one and leaves it alone."""

from __future__ import annotations

import os
import socket
import sys
from http.client import HTTPConnection
from pathlib import Path

HOST = "127.0.0.1"


def already_serving(port: int) -> bool:
    """Whether a Thermaxis answers on the port already."""
    try:
        connection = HTTPConnection(HOST, port, timeout=5)
        connection.request("GET", "/api/session")
        answer = connection.getresponse()
        return answer.status in (200, 401) and b"workshop" in answer.read() + b"workshop" * (answer.status == 401)
    except OSError:
        return False


def port_free(port: int) -> bool:
    """Whether the port can be bound."""
    with socket.socket(socket.AF_INET, socket.SOCK_STREAM) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((HOST, port))
        except OSError:
            return False
    return True


def main() -> int:
    """Print the address and become the server."""
    port = int(os.environ.get("PORT", "8321"))
    address = f"http://{HOST}:{port}/"
    if not port_free(port):
        if already_serving(port):
            print(f"Thermaxis is running already: {address}")
            return 0
        print(f"Port {port} is taken by another program: choose one with PORT=8400 make demo", file=sys.stderr)
        return 1
    print(f"Thermaxis with the demo data: {address}  (stop with Ctrl-C)", flush=True)
    environment = {**os.environ, "THERMAXIS_DEMO_SIGN_IN": "1"}
    gunicorn = str(Path(sys.executable).with_name("gunicorn"))
    options = ["--bind", f"{HOST}:{port}", "--threads", "4", "--no-control-socket", "--log-level", "warning"]
    return os.execve(gunicorn, [gunicorn, *options, "thermaxis.config.wsgi:application"], environment)


if __name__ == "__main__":
    sys.exit(main())
