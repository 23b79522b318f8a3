"""How long the heat ladder takes to answer a slider, in the browser: `make bench`.

Starts the application on its own database, opens Choose with the relay duty in Chromium, moves the cooling slider by
keyboard and takes the time from key press to changed ladder.
"""

from __future__ import annotations

import os
import socket
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).parents[1]
BURST = 5
# Every position once, so that nothing comes from the page's memory: the key that goes to the low end first.
SLIDERS = {"Ducts, cooling": 25, "Air": 25}

LADDER = '[aria-busy="false"] section[aria-label^="Heat ladder"]'
WATCH = """() => {
  window.moves = [];
  let pressed = null;
  addEventListener("keydown", () => { pressed = performance.now(); }, true);
  new MutationObserver(() => {
    if (pressed !== null) window.moves.push(performance.now() - pressed);
    pressed = null;
  }).observe(document.querySelector('section[aria-label^="Heat ladder"]'), {
    subtree: true, childList: true, characterData: true, attributes: true,
  });
}"""


def free_port() -> int:
    """A port nobody listens on now."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def wait_for(address: str) -> None:
    """Wait until the server answers."""
    for _ in range(600):
        try:
            urllib.request.urlopen(f"{address}api/session", timeout=120).read()
        except OSError:
            time.sleep(0.2)
        else:
            return
    raise SystemExit("the server did not come up")


def move(page: Page) -> list[float]:
    """Move both sliders from their low ends in bursts; return ms from key press to changed ladder."""
    page.evaluate(WATCH)
    number = 0
    for label, moves in SLIDERS.items():
        page.get_by_label(label).focus()
        for place in range(moves):
            page.keyboard.press("ArrowRight" if place else "Home")
            number += 1
            while page.evaluate("() => window.moves.length") < number:
                page.wait_for_timeout(5)
            if number % BURST == 0:
                # The hand rests: every set is judged again before the next burst.
                page.wait_for_timeout(600)
                page.locator(LADDER).wait_for()
    found: list[float] = page.evaluate("() => window.moves")
    return found[:number]


def main() -> None:
    """Print median, p95 and the longest of MOVES answers."""
    with tempfile.TemporaryDirectory() as folder:
        environment = {**os.environ, "THERMAXIS_VAR": folder}
        port = free_port()
        for arguments in (["migrate"], ["load_demo"], ["collectstatic", "--noinput"]):
            subprocess.run(
                [sys.executable, "manage.py", *arguments, "--verbosity", "0"], cwd=ROOT, env=environment, check=True
            )
        server = subprocess.Popen(
            [sys.executable, "-m", "thermaxis.demo.serve"],
            cwd=ROOT, env={**environment, "PORT": str(port)}, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        try:
            address = f"http://127.0.0.1:{port}/"
            wait_for(address)
            with sync_playwright() as play:
                browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])
                page = browser.new_page(viewport={"width": 1280, "height": 800})
                page.goto(f"{address}m/1/duty")
                page.get_by_label("Relay stint, Tarn loop").check()
                page.get_by_text("How many laps before the first limit?").wait_for()
                page.goto(f"{address}m/1/choose")
                page.locator(LADDER).wait_for(timeout=60_000)
                times = sorted(move(page))
                browser.close()
        finally:
            server.terminate()
            server.wait()
    p95 = times[max(0, round(0.95 * len(times)) - 1)]
    print(
        f"what-if in the browser, {len(times)} slider moves, relay duty: median {statistics.median(times):.0f} ms, "
        f"p95 {p95:.0f} ms, longest {times[-1]:.0f} ms from key press to changed ladder"
    )


if __name__ == "__main__":
    main()
