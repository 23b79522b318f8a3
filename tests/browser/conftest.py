"""A real server with the demo data and Debian's Chromium; axe from the front end's own packages."""

from __future__ import annotations

import contextlib
import math
import shutil
import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Any, Protocol

import pytest
from django.core.signals import request_finished, request_started
from playwright.sync_api import (
    APIResponse,
    Browser,
    Error,
    Locator,
    Page,
    Playwright,
    Response,
    expect,
    sync_playwright,
)

from tests import template
from tests.memo import engine  # noqa: F401
from thermaxis.apps.solving.progress import stop_all
from thermaxis.core.physics.warm_up import warm_up

ARGUMENTS = [
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
SIZES = {"desktop": (1280, 800), "phone": (390, 844)}
AXE = Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"
# Long enough for a busy machine: nothing here is about speed.
PATIENCE_MS = 60_000


def chromium_path() -> str:
    """Debian's Chromium; its shell without a window, where it is installed, draws the same with a fifth less work."""
    return shutil.which("chromium-headless-shell") or "/usr/bin/chromium"


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    # A cold engine compiles for half a minute; no test is about that, so it is done before the first.
    warm_up()
    expect.set_options(timeout=PATIENCE_MS)
    playwright: Playwright
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium_path(), args=ARGUMENTS)
        yield browser
        browser.close()


class Answering:
    """Counts the requests the live server is answering."""

    def __init__(self) -> None:
        self.count, self.changed = 0, threading.Condition()

    def began(self, **_: object) -> None:
        self._add(1)

    def ended(self, **_: object) -> None:
        self._add(-1)

    def end(self) -> None:
        """Stop what is under way, for nobody waits for it, until no request is left."""
        with self.changed:
            for _ in range(PATIENCE_MS // 500):
                stop_all()
                if self.changed.wait_for(lambda: self.count == 0, 0.5):
                    return
        raise AssertionError("a request never ends")

    def _add(self, one: int) -> None:
        with self.changed:
            self.count += one
            self.changed.notify_all()


@pytest.fixture
def demo_server(
    transactional_db: None, database: Path, live_server: Any, settings: Any, request: pytest.FixtureRequest
) -> Iterator[str]:
    """The address of a server that signs the demo user in; marked `bare`, of one nobody works on yet."""
    settings.DEMO_SIGN_IN = True
    settings.PUBLIC_ADDRESS = live_server.url
    if request.node.get_closest_marker("bare") is not None:
        template.restore(database, "empty")
    answering = Answering()
    request_started.connect(answering.began)
    request_finished.connect(answering.ended)
    yield str(live_server.url)
    # A page that is closed leaves its last questions behind: their answers must not meet the next test's database.
    answering.end()
    request_started.disconnect(answering.began)
    request_finished.disconnect(answering.ended)


# Changes that are on their way: a page shows some of them before they have arrived.
SENDING = """(() => {
    const fetch = window.fetch;
    window.sending = 0;
    window.fetch = async (...asked) => {
        const [request, init] = asked;
        const change = !["GET", "HEAD"].includes(init?.method ?? request.method ?? "GET");
        window.sending += change;
        try {
            return await fetch(...asked);
        } finally {
            window.sending -= change;
        }
    };
})();"""


class Opener(Protocol):
    """Open a page at a named size, in a theme."""

    def __call__(self, size: str, theme: str = "light") -> Page: ...


@pytest.fixture
def open_page(chromium: Browser, demo_server: str) -> Iterator[Opener]:
    """Open the application at a named size; a script error or a failed request fails the test."""
    contexts = []
    troubles: list[str] = []

    def opener(size: str, theme: str = "light") -> Page:
        width, height = SIZES[size]
        context = chromium.new_context(
            viewport={"width": width, "height": height},
            base_url=demo_server,
            locale="en-GB",
            # What the page asks for goes by nobody a test could not stop; test_offline has the worker that keeps pages.
            service_workers="block",
        )
        # The typefaces as on every visit but the first: they do not come in between.
        for key, value in (("theme", theme), ("faces", "known")):
            context.add_init_script(f"localStorage.setItem('thermaxis.{key}', '\"{value}\"')")
        context.add_init_script(SENDING)
        contexts.append(context)
        page = context.new_page()
        page.set_default_timeout(PATIENCE_MS)
        page.on("pageerror", lambda error: troubles.append(str(error)))
        page.on("response", lambda got: troubles.append(f"{got.status} {got.url}") if got.status >= 500 else None)
        # Shown where the test fails: what was sent, and what came of it.
        page.on("response", lambda got: print(*_told(got, demo_server)))
        page.on("request", lambda asked: troubles.append(asked.url) if not asked.url.startswith(demo_server) else None)
        return page

    yield opener
    for context in contexts:
        for page in context.pages:
            # Shown where the test fails: what stood on the page then, unless it is closed or on its way elsewhere.
            with contextlib.suppress(Error):
                print(page.url, page.evaluate("document.body?.innerText"), sep="\n")
        context.close()
    assert troubles == []


def _told(got: Response, server: str) -> list[object]:
    """An answer in a line: its status, what was asked for, and what was sent along."""
    sent = (got.request.post_data_buffer or b"")[:2000].decode("utf-8", "replace")
    return [got.status, got.request.method, got.url.removeprefix(server), sent]


def settled(page: Page) -> None:
    """Wait until the page of the address is drawn, nothing on it still computes and what it sent has arrived."""
    page.wait_for_function(
        """() => {
            const main = document.querySelector("main");
            return main && (main.dataset.path ?? location.pathname) === location.pathname && !window.sending;
        }"""
    )
    expect(page.locator("[aria-busy='true']")).to_have_count(0)
    expect(page.get_by_role("status")).to_have_count(0)


def pressed_for_pdf(page: Page, link: Locator) -> APIResponse:
    """Press what opens a print in a window of its own, and give what that window asked for.

    By what it asked for, as a browser without a viewer of its own stores the print and leaves the window empty.
    """
    asking = page.context.expect_event("request", lambda asked: asked.is_navigation_request())
    with page.expect_popup() as opened, asking as asked:
        link.click()
    opened.value.close()
    return page.request.get(asked.value.url)


def visit(page: Page, path: str) -> None:
    """Go to a page as a link does: the application stays loaded."""
    page.evaluate(
        """(path) => {
            history.pushState(null, "", path);
            dispatchEvent(new PopStateEvent("popstate", { state: null }));
        }""",
        path,
    )
    settled(page)


@contextlib.contextmanager
def answered(page: Page) -> Iterator[None]:
    """Wait for a change of the machine's numbers to be answered: loaded again before, a page's reading overtakes it."""
    with page.expect_response(lambda said: said.request.method == "PATCH"):
        yield


def axe_violations(page: Page) -> list[str]:
    """WCAG 2.2 A and AA violations, each as a line with the first place it stands at."""
    page.evaluate(AXE.read_text("utf-8"))
    found = page.evaluate(
        "async () => (await axe.run(document, {runOnly: ['wcag2a','wcag2aa','wcag21a','wcag21aa','wcag22aa']})).violations"
    )
    return [f"{entry['id']}: {entry['nodes'][0]['html'][:160]}" for entry in found]


def reading(page: Page, name: str) -> float:
    """The number a reading of the verdict strip shows."""
    return float(page.locator(_strip(name)).inner_text())


def reads(page: Page, name: str, low: float, high: float = math.inf) -> float:
    """Wait until a reading of the verdict strip lies in low..high, and give it."""
    return shows(page, _strip(name), low, high)


def shows(page: Page, selector: str, low: float, high: float = math.inf) -> float:
    """Wait until an element's number lies in low..high, and give it.

    What was asked last may still be on its way while the page is still, so one look is not enough.
    """
    page.wait_for_function(
        """([selector, low, high]) => {
            const text = document.querySelector(selector)?.innerText ?? "";
            return text !== "" && Number(text) >= low && Number(text) <= high;
        }""",
        arg=[selector, low, min(high, 1e9)],
    )
    return float(page.locator(selector).inner_text())


def _strip(name: str) -> str:
    return f"[data-reading='{name}'] .figures.font-bold"
