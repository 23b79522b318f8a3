"""How long somebody waits for a page while another person computes a lot: `make bench`.

Serves the application with a catalogue of 68 compounds and lets one person ask for choices with mixed compounds, each
on another day's air so that nothing comes from memory, while a second person opens a page, four requests one after the
other. Prints the second person's p50 and p95 with nobody, four and fourteen choices under way, and with forty sockets
that never finish asking.
"""

from __future__ import annotations

import contextlib
import json
import socket
import statistics
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from pathlib import Path

from tests.attack.served import HOST, Person, Seen, Server, served

READINGS = 60
COMPOUNDS = 68


def more_compounds(ada: Person) -> None:
    """Fill the catalogue up with copies under other names."""
    _, catalogue = ada.json("GET", "/api/catalogue")
    for number in range(COMPOUNDS - len(catalogue["compounds"])):
        like = catalogue["compounds"][number % len(catalogue["compounds"])]
        name = f"{like['name']} {number}"
        _, part = ada.json("GET", f"/api/catalogue/part/compounds?name={like['name'].replace(' ', '%20')}")
        ada.json("PUT", "/api/catalogue/part", {"table": "compounds", "cells": {**part["cells"], "name": name}})
        for shape in like["shapes"]:
            query = f"name={like['name'].replace(' ', '%20')}&second={shape['shape']}"
            _, part = ada.json("GET", f"/api/catalogue/part/pad%20shapes?{query}")
            ada.json("PUT", "/api/catalogue/part", {"table": "pad shapes", "cells": {**part["cells"], "pad": name}})


def page(person: Person, machine: int) -> list[float]:
    """Seconds of each request of what a page of a machine asks for first."""
    found = []
    for path in ("/api/session", "/api/machines", f"/api/machines/{machine}", f"/api/machines/{machine}/life"):
        began = time.perf_counter()
        status, _ = person.json("GET", path)
        assert status == 200, (path, status)
        found.append(time.perf_counter() - began)
    return found


@contextlib.contextmanager
def choosing(ada: Person, machine: int, count: int) -> Iterator[dict[int, int]]:
    """So many hands of one person asking for mixed choices over and over; answers by status."""
    answers: dict[int, int] = {}
    ended = threading.Event()

    def hand(number: int) -> None:
        person, air = ada.twin(), -40.0 + number
        while not ended.is_set():
            air += 0.37
            # Not read here: the second person's clock runs in this process too.
            ask = json.dumps({"mixed": True, "air_C": air % 60 - 20}).encode()
            status, _ = person.send("POST", f"/api/machines/{machine}/candidates", ask)
            answers[status] = answers.get(status, 0) + 1
            if status == 429:
                ended.wait(1.0)
        person.hang_up()

    threads = [threading.Thread(target=hand, args=(number,), daemon=True) for number in range(count)]
    for thread in threads:
        thread.start()
    try:
        yield answers
    finally:
        ended.set()
        for thread in threads:
            thread.join()


@contextlib.contextmanager
def slow_sockets(server: Server, count: int) -> Iterator[None]:
    """Sockets that begin to ask and never finish."""
    held = [socket.create_connection((HOST, server.port)) for _ in range(count)]
    for each in held:
        each.sendall(b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Slow: ")
    try:
        yield
    finally:
        for each in held:
            each.close()


def measured(what: str, person: Person, machine: int) -> None:
    """Read so many pages and print how long they took, and each request of them."""
    pages = [page(person, machine) for _ in range(READINGS)]
    whole, single = sorted(map(sum, pages)), sorted(second for each in pages for second in each)

    def shown(times: list[float]) -> str:
        p95 = times[int(0.95 * len(times))]
        return f"p50 {1e3 * statistics.median(times):4.0f}  p95 {1e3 * p95:4.0f}  most {1e3 * times[-1]:4.0f} ms"

    print(f"{what:44} page {shown(whole)}; request {shown(single)}")
    if "-v" in sys.argv:
        print("   ", [f"{1e3 * sorted(column)[int(0.95 * READINGS)]:.0f}" for column in zip(*pages, strict=True)])


def main() -> None:
    """Serve, load, measure."""
    with tempfile.TemporaryDirectory() as folder, served(Path(folder)) as server:
        seen = Seen()
        ada, ben = Person(server.port, seen, "ada"), Person(server.port, seen, "ben")
        more_compounds(ada)
        _, machines = ada.json("GET", "/api/machines")
        machine, other = machines[0]["id"], machines[2]["id"]
        status, choice = ada.json("POST", f"/api/machines/{machine}/candidates", {"mixed": True})
        print(f"mixed choice: {status}, {choice['total']} sets. {choice['left_out']}")
        page(ben, other)
        measured("nobody computes", ben, other)
        for count in (4, 14):
            with choosing(ada, machine, count) as answers:
                time.sleep(2)
                measured(f"{count} mixed choices of one person under way", ben, other)
            print(f"  answers: {answers}")
        with slow_sockets(server, 40):
            measured("40 sockets that never finish asking", ben, other)
        print(f"at most {server.memory_MB():.0f} MB")


if __name__ == "__main__":
    main()
