"""The demo as `make demo` serves it: gunicorn, compressed static files, a second start that does no harm."""

from __future__ import annotations

import os
import re
import socket
import subprocess
import sys
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, expect

ROOT = Path(__file__).parents[2]


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@pytest.fixture
def served(tmp_path: Path) -> Iterator[tuple[str, dict[str, str]]]:
    """A served demo of its own: database, secret and static files in a temporary folder."""
    environment = {**os.environ, "THERMAXIS_VAR": str(tmp_path), "PORT": str(free_port())}
    environment["DJANGO_SETTINGS_MODULE"] = "thermaxis.config.settings"
    for command in (["migrate", "--verbosity", "0"], ["load_demo"], ["collectstatic", "--noinput", "--verbosity", "0"]):
        subprocess.run([sys.executable, "manage.py", *command], cwd=ROOT, env=environment, check=True)
    start = [sys.executable, "-m", "thermaxis.demo.serve"]
    process = subprocess.Popen(start, cwd=ROOT, env=environment, stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    address = re.search(r"http://\S+", process.stdout.readline())
    assert address
    yield address[0], environment
    process.terminate()
    process.wait()
    process.stdout.close()


def answered(url: str, headers: dict[str, str] | None = None) -> tuple[int, dict[str, str], bytes]:
    """Ask once: the port listens from the moment the address is printed."""
    request = urllib.request.Request(url, headers=headers or {})
    with urllib.request.urlopen(request, timeout=180) as response:
        return response.status, {key.lower(): value for key, value in response.headers.items()}, response.read()


def test_the_demo_is_served_whole(served: tuple[str, dict[str, str]], chromium: Browser) -> None:
    address, environment = served
    status, headers, page = answered(address)
    assert status == 200
    assert "script-src 'self'" in headers["content-security-policy"]
    script = re.search(rb'src="(/static/assets/[^"]+\.js)"', page)
    assert script
    _, headers, _ = answered(address + script[1].decode().lstrip("/"), {"Accept-Encoding": "br"})
    assert headers["content-encoding"] == "br"
    assert "immutable" in headers["cache-control"]

    context = chromium.new_context()
    view = context.new_page()
    complaints: list[str] = []
    view.on("console", lambda message: complaints.append(message.text) if message.type == "error" else None)
    view.goto(address)
    expect(view.get_by_role("link", name="Kit roadster")).to_be_visible(timeout=60_000)
    fonts = view.evaluate("document.fonts.ready.then(() => document.fonts.check('14px \"Archivo Variable\"'))")
    assert fonts
    assert complaints == []
    context.close()

    again = subprocess.run(
        [sys.executable, "-m", "thermaxis.demo.serve"], cwd=ROOT, env=environment, capture_output=True, text=True
    )
    assert again.returncode == 0
    assert "running already" in again.stdout


def test_a_port_taken_by_something_else_is_said(tmp_path: Path) -> None:
    with socket.socket() as other:
        other.bind(("127.0.0.1", 0))
        environment = {**os.environ, "THERMAXIS_VAR": str(tmp_path), "PORT": str(other.getsockname()[1])}
        done = subprocess.run(
            [sys.executable, "-m", "thermaxis.demo.serve"], cwd=ROOT, env=environment, capture_output=True, text=True
        )
    assert done.returncode == 1
    assert "PORT=8400" in done.stderr
