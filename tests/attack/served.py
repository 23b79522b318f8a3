"""The application as it is really served, on a database of its own, for an attack from outside; this machine only."""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import re
import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from tests.template import copy_to

ROOT = Path(__file__).parents[2]
HOST = "127.0.0.1"
PASSWORD = "tarn-and-fell-91"
# Longer than anything may take, on a busy machine too; what takes more than the second is a hang.
TIMEOUT_S, HANG_S = 120.0, 5.0
PEOPLE = f"""
from django.contrib.auth import get_user_model
from thermaxis.apps.accounts.models import Membership, Workshop
make = get_user_model().objects.create_user
ours, theirs = Workshop.objects.get(), Workshop.objects.create(name="Elsewhere")
for name, workshop in (("ada", ours), ("ben", ours), ("eve", theirs)):
    Membership.objects.create(user=make(name, password="{PASSWORD}"), workshop=workshop)
kim, rea = (make(name, password="{PASSWORD}") for name in ("kim", "rea"))
for workshop in (ours, theirs):
    Membership.objects.create(user=kim, workshop=workshop)
Membership.objects.create(user=rea, workshop=ours, role="reader")
"""


def free_port() -> int:
    """A port nobody listens on."""
    with socket.socket() as probe:
        probe.bind((HOST, 0))
        return int(probe.getsockname()[1])


@dataclass
class Seen:
    """What came of an attack so far."""

    requests: int = 0
    by_status: dict[int, int] = field(default_factory=dict)
    faults: list[str] = field(default_factory=list)
    hangs: list[str] = field(default_factory=list)
    slowest_s: float = 0.0
    slowest: str = ""
    lock: threading.Lock = field(default_factory=threading.Lock)

    def count(self, label: str, status: int, seconds: float, body: bytes) -> None:
        """One answer; a fault is a 5xx, none at all, or an error that is no problem document."""
        with self.lock:
            self.requests += 1
            self.by_status[status] = self.by_status.get(status, 0) + 1
            if seconds > self.slowest_s:
                self.slowest_s, self.slowest = seconds, label
            if status >= 500 or status == 0:
                self.faults.append(f"{status} {label}: {body[:200]!r}")
            if seconds > HANG_S:
                self.hangs.append(f"{seconds:.1f} s {label}")
            if 500 > status >= 400 and b'"/problems/' not in body:
                self.faults.append(f"no problem document, {status} {label}: {body[:200]!r}")


class Person:
    """Somebody signed in, with one connection; every answer is counted."""

    def __init__(self, port: int, seen: Seen, name: str) -> None:
        self.port, self.seen, self.name = port, seen, name
        self.cookies: dict[str, str] = {}
        self.connection: http.client.HTTPConnection | None = None
        self.send("GET", "/", label="page", counted=False)
        status, _ = self.json("POST", "/api/session", {"username": name, "password": PASSWORD})
        assert status == 200, status

    def twin(self) -> Person:
        """The same session from another connection, for another thread."""
        other = object.__new__(Person)
        other.port, other.seen, other.name = self.port, self.seen, self.name
        other.cookies, other.connection = dict(self.cookies), None
        return other

    def send(
        self,
        method: str,
        path: str,
        body: bytes = b"",
        media: str = "application/json",
        *,
        label: str = "",
        counted: bool = True,
        work: str = "",
        head: Mapping[str, str] | None = None,
    ) -> tuple[int, bytes]:
        """Send and take the answer: its status (0 where none came) and what it says."""
        headers = {"Content-Type": media, "Cookie": "; ".join(f"{k}={v}" for k, v in self.cookies.items())}
        if "csrftoken" in self.cookies:
            headers["X-CSRFToken"] = self.cookies["csrftoken"]
        if work:
            headers["X-Work"] = work
        headers.update(head or {})
        began = time.perf_counter()
        # One that was not used for a while has been closed meanwhile: that says nothing of the request.
        status, said = self._ask(method, path, body, headers)
        if status == 0 and self.connection is None and time.perf_counter() - began < 1.0:
            status, said = self._ask(method, path, body, headers)
        if counted:
            self.seen.count(label or f"{method} {path[:80]}", status, time.perf_counter() - began, said)
        return status, said

    def _ask(self, method: str, path: str, body: bytes, headers: dict[str, str]) -> tuple[int, bytes]:
        try:
            if self.connection is None:
                self.connection = http.client.HTTPConnection(HOST, self.port, timeout=TIMEOUT_S)
            self.connection.request(method, path, body, headers)
            answer = self.connection.getresponse()
            status, said = answer.status, answer.read()
        except (OSError, http.client.HTTPException) as error:
            self.hang_up()
            return 0, repr(error).encode()
        for cookie in answer.headers.get_all("Set-Cookie") or []:
            name, _, value = cookie.strip().split(";")[0].partition("=")
            self.cookies[name] = value
        if answer.will_close:
            self.hang_up()
        return status, said

    def hang_up(self) -> None:
        """Close the connection; the next request opens another."""
        if self.connection is not None:
            self.connection.close()
        self.connection = None

    def json(self, method: str, path: str, body: Any = None, label: str = "") -> tuple[int, Any]:
        """Send JSON and read JSON."""
        content = b"" if body is None else json.dumps(body).encode()
        status, said = self.send(method, path, content, label=label)
        try:
            return status, json.loads(said) if said else None
        except ValueError:
            return status, None

    def form(self, path: str, fields: dict[str, str], file: bytes, name: str, label: str) -> int:
        """Send a form with one file; how it was answered."""
        return self.upload(path, fields, file, name, label)[0]

    def upload(self, path: str, fields: dict[str, str], file: bytes, name: str, label: str) -> tuple[int, bytes]:
        """The same, and what was said."""
        mark = b"----boundary-of-the-attack"
        parts = [
            b"--" + mark + f'\r\nContent-Disposition: form-data; name="{key}"\r\n\r\n{value}\r\n'.encode()
            for key, value in fields.items()
        ]
        head = f'\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\n'.encode()
        parts.append(b"--" + mark + head + b"Content-Type: application/octet-stream\r\n\r\n" + file + b"\r\n")
        body = b"".join(parts) + b"--" + mark + b"--\r\n"
        return self.send("POST", path, body, f"multipart/form-data; boundary={mark.decode()}", label=label)


@dataclass(frozen=True)
class Server:
    """A served application and what it has used."""

    port: int
    process: subprocess.Popen[str]

    def memory_MB(self) -> float:
        """The most memory it ever had."""
        status = Path(f"/proc/{self.process.pid}/status").read_text("utf-8")
        found = re.search(r"VmHWM:\s+(\d+)", status)
        assert found
        return int(found[1]) / 1000.0


def environment_of(folder: Path, port: int) -> dict[str, str]:
    """The settings of a server on a folder of its own, and no others."""
    environment = {key: value for key, value in os.environ.items() if not key.startswith(("THERMAXIS_", "DJANGO_"))}
    return environment | {
        "THERMAXIS_VAR": str(folder),
        "PORT": str(port),
        "DJANGO_SETTINGS_MODULE": "thermaxis.config.settings",
    }


def fill(folder: Path, people: str = PEOPLE) -> None:
    """Load the demo's data and people with passwords."""
    copy_to(folder)
    subprocess.run(
        [sys.executable, "manage.py", "shell", "--no-imports", "-c", people],
        cwd=ROOT,
        env=environment_of(folder, 0),
        check=True,
        stdout=subprocess.DEVNULL,
    )


@contextlib.contextmanager
def served(folder: Path, *, filled: bool = False) -> Iterator[Server]:
    """Serve the demo's data, with somebody of its workshop and somebody of another, without demo sign-in."""
    port = free_port()
    environment = environment_of(folder, port)
    if not filled:
        fill(folder)
    log = (folder / "server.log").open("a")
    process = subprocess.Popen(
        [sys.executable, "-m", "thermaxis.config.server"],
        cwd=ROOT,
        env=environment,
        text=True,
        stdout=subprocess.PIPE,
        stderr=log,
    )
    assert process.stdout is not None
    assert "http://" in process.stdout.readline()
    try:
        yield Server(port, process)
    finally:
        process.send_signal(signal.SIGTERM)
        try:
            process.wait(30)
        except subprocess.TimeoutExpired:
            process.kill()
            process.wait()
        process.stdout.close()
        log.close()
