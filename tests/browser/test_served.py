"""The demo as `make demo` serves it: the real server, compressed static files, a second start that does no harm."""

from __future__ import annotations

import http.client
import json
import os
import re
import shutil
import signal
import socket
import subprocess
import sys
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Route, expect

from tests.browser.conftest import PATIENCE_MS
from tests.template import copy_to

ROOT = Path(__file__).parents[2]


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def start(environment: dict[str, str]) -> tuple[subprocess.Popen[str], str]:
    command = [sys.executable, "-m", "thermaxis.demo.serve"]
    # A group of its own: a killed master must not leave its workers behind.
    process = subprocess.Popen(
        command, cwd=ROOT, env=environment, stdout=subprocess.PIPE, text=True, start_new_session=True
    )
    assert process.stdout is not None
    address = re.search(r"http://\S+", process.stdout.readline())
    assert address
    return process, address[0]


def stop(process: subprocess.Popen[str], how: signal.Signals = signal.SIGTERM) -> None:
    if process.poll() is None:
        os.killpg(process.pid, how)
    process.wait()
    assert process.stdout is not None
    process.stdout.close()


@pytest.fixture(scope="module")
def loaded(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A folder with the demo's database and static files, made once; each test serves a copy of it."""
    folder = tmp_path_factory.mktemp("demo")
    copy_to(folder)
    command = [sys.executable, "manage.py", "collectstatic", "--noinput", "--verbosity", "0"]
    subprocess.run(command, cwd=ROOT, env=environment_of(folder), check=True)
    return folder


def environment_of(folder: Path) -> dict[str, str]:
    return {
        **os.environ,
        "THERMAXIS_VAR": str(folder),
        "PORT": str(free_port()),
        "DJANGO_SETTINGS_MODULE": "thermaxis.config.settings",
    }


@pytest.fixture
def demo(loaded: Path, tmp_path: Path) -> dict[str, str]:
    """The environment of a demo of its own."""
    return environment_of(Path(shutil.copytree(loaded, tmp_path / "demo")))


@pytest.fixture
def served(demo: dict[str, str]) -> Iterator[tuple[str, dict[str, str]]]:
    """A served demo."""
    process, address = start(demo)
    yield address, demo
    stop(process)


def answered(url: str, headers: dict[str, str] | None = None) -> tuple[int, dict[str, str], bytes]:
    """Ask once: the port listens from the moment the address is printed."""
    request = urllib.request.Request(url, headers=headers or {})
    with urllib.request.urlopen(request, timeout=PATIENCE_MS / 1000) as response:
        return response.status, {key.lower(): value for key, value in response.headers.items()}, response.read()


# What a line of 400 kbit/s brings in 6 s, less four answers' delay of 0.4 s each.
SLOW_LINE_BYTES = 220_000
FIRST_DRAWN = """new MutationObserver((_, watch) => {
    if (!document.querySelector("tr[data-candidate]")) return;
    window.firstDrawn = performance.now();
    watch.disconnect();
}).observe(document, {childList: true, subtree: true});"""
ARRIVED_BEFORE = """() => ["navigation", "resource"].flatMap((kind) => performance.getEntriesByType(kind))
    .filter((entry) => entry.responseEnd > 0 && entry.responseEnd <= window.firstDrawn)
    .map((entry) => [entry.name, entry.encodedBodySize])"""


def test_choose_needs_no_more_than_a_slow_line_brings(served: tuple[str, dict[str, str]], chromium: Browser) -> None:
    """Counted on the wire until the first set of the phone's page is drawn; nothing that is not drawn comes before."""
    address, _ = served
    context = chromium.new_context(viewport={"width": 390, "height": 844})
    view = context.new_page()
    view.set_default_timeout(PATIENCE_MS)
    view.add_init_script(FIRST_DRAWN)
    view.goto(f"{address}m/1/choose")
    # By the page's own clock: what a busy machine fetches between the row and this look at it does not count.
    view.wait_for_function("() => window.firstDrawn !== undefined")
    before: list[tuple[str, int]] = view.evaluate(ARRIVED_BEFORE)
    context.close()
    assert sum(size for _, size in before) < SLOW_LINE_BYTES, before
    assert not [url for url, _ in before if "woff" in url]
    order = [url for url, _ in before]
    assert any("candidates" in url for url in order)
    # The first questions are asked by what comes first, while the code that draws is still on its way.
    _, headers, _ = answered(f"{address}m/1/choose")
    named = re.findall(r"<(/static/assets/[^>]+)>; rel=modulepreload", headers["link"])
    assert [name for name in named if "/index-" in name] == named[:1]
    assert {name for name in named if "/choose-" in name or "/App-" in name}
    assert {name.rpartition("/")[2] for name in named} <= {url.rpartition("/")[2] for url in order}


def test_typefaces_wait_for_the_numbers_however_long_these_take(
    served: tuple[str, dict[str, str]], chromium: Browser
) -> None:
    address, _ = served
    context = chromium.new_context()
    view = context.new_page()
    view.set_default_timeout(PATIENCE_MS)
    faces: list[str] = []
    view.on("request", lambda asked: faces.append(asked.url) if "woff" in asked.url else None)
    held: list[Route] = []
    view.route("**/candidates", lambda route: held.append(route))
    view.clock.install()
    with view.expect_request("**/candidates"):
        view.goto(f"{address}m/1/choose")
    view.get_by_text("Simulating every pad and rotor").wait_for()
    view.clock.fast_forward(60_000)
    # As long again: what a clock has set off has had its turn when the page answers.
    view.clock.fast_forward(60_000)
    view.evaluate("() => document.fonts.ready.then(() => undefined)")
    assert not faces
    with view.expect_request(re.compile("woff")):
        held[0].continue_()
        view.locator("tr[data-candidate]").first.wait_for()
        view.clock.fast_forward(60_000)
    context.close()
    context.close()


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
    view.set_default_timeout(PATIENCE_MS)
    complaints: list[str] = []
    view.on("console", lambda message: complaints.append(message.text) if message.type == "error" else None)
    view.goto(address)
    expect(view.get_by_role("link", name="Kit roadster")).to_be_visible()
    loaded = """async () => {
        const here = (face) => face.family.includes("Archivo") && face.status === "loaded";
        while (![...document.fonts].some(here)) await new Promise(requestAnimationFrame);
        return true;
    }"""
    assert view.evaluate(loaded)
    assert complaints == []
    context.close()

    again = subprocess.run(
        [sys.executable, "-m", "thermaxis.demo.serve"], cwd=ROOT, env=environment, capture_output=True, text=True
    )
    assert again.returncode == 0
    assert "running already" in again.stdout


def test_hands_that_never_finish_asking_hold_nobody_up(served: tuple[str, dict[str, str]]) -> None:
    address, environment = served
    place = ("127.0.0.1", int(environment["PORT"]))
    answered(address)
    # More than there are threads: heads that never end, bodies that never come, and nothing at all.
    begun = [
        b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Slow: ",
        b"POST /api/session HTTP/1.1\r\nContent-Length: 99\r\n\r\n{",
        b"",
    ]
    held = [socket.create_connection(place) for _ in range(60)]
    try:
        for number, each in enumerate(held):
            each.sendall(begun[number % 3])
        status, _, body = answered(f"{address}api/machines")
        assert status == 200
        assert b"Kit roadster" in body
        # In time the server lets go of them by itself.
        held[0].settimeout(PATIENCE_MS / 1000)
        assert held[0].recv(1) == b""
    finally:
        for each in held:
            each.close()


def test_what_the_server_itself_refuses_is_worded_as_everything_else(served: tuple[str, dict[str, str]]) -> None:
    address, environment = served
    answered(address)
    for asked, status in (
        (b"POST /api/duties HTTP/1.1\r\nContent-Length: 200000000\r\n\r\n", 413),
        (b"GET /api/machines HTTP/1.1\r\nX-Long: " + b"x" * 40_000 + b"\r\n\r\n", 431),
        (b"nonsense\r\n\r\n", 400),
    ):
        with socket.create_connection(("127.0.0.1", int(environment["PORT"]))) as each:
            each.sendall(asked)
            with each.makefile("rb") as answer:
                said = answer.read()
        head, _, body = said.partition(b"\r\n\r\n")
        assert head.startswith(f"HTTP/1.1 {status}".encode()) or head.startswith(f"HTTP/1.0 {status}".encode())
        assert b"application/problem+json" in head
        assert json.loads(body)["status"] == status


def test_behind_a_proxy_everything_is_safe_by_one_setting(demo: dict[str, str]) -> None:
    environment = {**demo, "THERMAXIS_HTTPS": "1", "THERMAXIS_HOSTS": "brakes.example"}
    command = [sys.executable, "-m", "thermaxis.config.server"]
    process = subprocess.Popen(
        command, cwd=ROOT, env=environment, stdout=subprocess.PIPE, text=True, start_new_session=True
    )
    assert process.stdout is not None
    process.stdout.readline()

    def ask(method: str, path: str, body: str = "", **headers: str) -> http.client.HTTPResponse:
        connection = http.client.HTTPConnection("127.0.0.1", int(environment["PORT"]), timeout=PATIENCE_MS / 1000)
        named = {name.replace("_", "-"): value for name, value in headers.items()}
        connection.request(method, path, body, {"Host": "brakes.example", **named})
        answer = connection.getresponse()
        answer.read()
        connection.close()
        return answer

    try:
        plain = ask("GET", "/")
        assert (plain.status, plain.headers["Location"]) == (301, "https://brakes.example/")
        proxied = {"X_Forwarded_Proto": "https", "X_Forwarded_For": "203.0.113.5"}
        page = ask("GET", "/", **proxied)
        assert page.status == 200
        assert "max-age=31536000" in page.headers["Strict-Transport-Security"]
        cookie = page.headers["Set-Cookie"]
        assert "Secure" in cookie
        token = cookie.split("csrftoken=")[1].split(";")[0]
        signing = {
            "Cookie": f"csrftoken={token}",
            "X_CSRFToken": token,
            "Content_Type": "application/json",
            "Origin": "https://brakes.example",
        }
        body = '{"username": "nobody", "password": "guess"}'
        # Each address the proxy names has tries of its own.
        tried = [ask("POST", "/api/session", body, **proxied, **signing).status for _ in range(9)]
        assert (tried[0], tried[-1]) == (401, 429)
        other = {**proxied, "X_Forwarded_For": "203.0.113.6"}
        assert ask("POST", "/api/session", body, **other, **signing).status == 401
    finally:
        stop(process)


def test_a_port_taken_by_something_else_is_said(tmp_path: Path) -> None:
    with socket.socket() as other:
        other.bind(("127.0.0.1", 0))
        environment = {**os.environ, "THERMAXIS_VAR": str(tmp_path), "PORT": str(other.getsockname()[1])}
        done = subprocess.run(
            [sys.executable, "-m", "thermaxis.demo.serve"], cwd=ROOT, env=environment, capture_output=True, text=True
        )
    assert done.returncode == 1
    assert "PORT=8400" in done.stderr


def test_a_killed_server_loses_no_confirmed_cell(demo: dict[str, str], chromium: Browser) -> None:
    process, address = start(demo)
    page = chromium.new_context(base_url=address).new_page()
    page.set_default_timeout(PATIENCE_MS)
    try:
        page.goto("/m/1/inspect")
        page.get_by_role("button", name="Start measuring").click()
        page.get_by_role("textbox", name="Front left, pad, inner", exact=True).focus()
        for number in ("8.91", "8.93", "19.40"):
            page.keyboard.type(number)
            page.keyboard.press("Enter")
        expect(page.locator("[data-saved='true']")).to_be_visible()
        expect(page.get_by_text("3 of 20 readings in")).to_be_visible()
        stop(process, signal.SIGKILL)
        # What is entered while nobody listens waits on the device.
        page.keyboard.type("19.41")
        page.keyboard.press("Enter")
        expect(page.get_by_text("1 not sent yet")).to_be_visible()
        process, _ = start(demo)
        page.reload()
        expect(page.get_by_text("4 of 20 readings in")).to_be_visible()
        for place, value in (
            ("pad, inner", "8.91"),
            ("pad, outer", "8.93"),
            ("rotor, point 1", "19.4"),
            ("rotor, point 2", "19.41"),
        ):
            box = page.get_by_role("textbox", name=f"Front left, {place}", exact=True)
            expect(box).to_have_value(value)
    finally:
        page.context.close()
        stop(process)
