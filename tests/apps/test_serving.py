"""`thermaxis serve` as a process: what it refuses, what it prints, what its log holds, and what a kill leaves."""

from __future__ import annotations

import http.client
import json
import os
import re
import signal
import subprocess
import sys
from pathlib import Path

import pytest

from tests.apps.test_safekeeping import ROOT, run
from tests.attack.served import free_port


@pytest.mark.parametrize(
    ("setting", "value", "reason"),
    [
        ("THERMAXIS_DEBUG", "1", "THERMAXIS_DEBUG is set"),
        ("THERMAXIS_DEMO_SIGN_IN", "1", "THERMAXIS_DEMO_SIGN_IN is set"),
        ("THERMAXIS_HOSTS", "*", "allows any host"),
        ("THERMAXIS_ORIGINS", "https://brakes.example.org", "THERMAXIS_HTTPS is not set"),
        ("THERMAXIS_BIND", "0.0.0.0", "name by THERMAXIS_HOSTS"),
        ("WEB_CONCURRENCY", "4", "one process serves"),
    ],
)
def test_what_is_unsafe_is_not_served_and_says_why(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, setting: str, value: str, reason: str
) -> None:
    monkeypatch.setenv(setting, value)
    done = run(tmp_path, "serve")
    assert done.returncode == 1
    assert reason in done.stderr
    assert "Traceback" not in done.stderr
    assert not (tmp_path / "thermaxis.sqlite3").exists()


def ask(port: int, method: str, path: str, body: object = None, **headers: str) -> tuple[int, str, dict[str, str]]:
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=120)
    content = json.dumps(body) if body is not None else None
    connection.request(method, path, content, {"Content-Type": "application/json", **headers})
    answer = connection.getresponse()
    found = answer.status, answer.read().decode("utf-8", "replace"), dict(answer.getheaders())
    connection.close()
    return found


def test_a_first_start_tells_where_to_begin_and_its_log_tells_nothing_of_anybody(tmp_path: Path) -> None:
    assert run(tmp_path, "migrate").returncode == 0
    assert (tmp_path / "thermaxis.sqlite3").stat().st_mode & 0o077 == 0
    port = free_port()
    environment = {**os.environ, "THERMAXIS_VAR": str(tmp_path), "PORT": str(port), "THERMAXIS_LOG": "json"}
    environment["DJANGO_SETTINGS_MODULE"] = "thermaxis.config.settings"
    log = tmp_path / "log"
    with log.open("w") as errors:
        process = subprocess.Popen(
            [sys.executable, "-m", "thermaxis.config.commands", "serve"],
            cwd=ROOT,
            env=environment,
            stdout=subprocess.PIPE,
            stderr=errors,
            text=True,
        )
    try:
        assert process.stdout
        lines = [process.stdout.readline(), process.stdout.readline()]
        secret = re.search(r"/join#(\S+)", lines[1])
        assert secret, lines
        status, body, _ = ask(port, "GET", "/api/health")
        assert (status, json.loads(body)["database"]) == (200, True)
        _, _, headers = ask(port, "GET", "/join")
        token = re.search(r"csrftoken=([^;]+)", headers["Set-Cookie"])
        assert token
        sent = {"Cookie": f"csrftoken={token[1]}", "X-CSRFToken": token[1]}
        founded = {"username": "adalind", "password": "tarn-and-fell-91", "workshop": "Tarnside", "secret": secret[1]}
        assert ask(port, "POST", "/api/joining/found", founded, **sent)[0] == 201
        credentials = {"username": "adalind", "password": "tarn-and-fell-91"}
        assert ask(port, "POST", "/api/session", credentials, **sent)[0] == 200
        assert ask(port, "GET", "/api/machines/17?name=adalind")[0] == 401
        # A second one on the same folder is told about the first.
        second = run(tmp_path, "serve")
        assert second.returncode == 1
    finally:
        process.send_signal(signal.SIGTERM)
        process.wait(60)
        assert process.stdout
        process.stdout.close()
    rows = [json.loads(line) for line in log.read_text().splitlines() if line.startswith("{")]
    assert {row["path"] for row in rows} >= {"/api/health", "/api/joining/found", "/api/machines/*"}
    assert set(rows[0]) == {"at", "method", "path", "status", "ms", "bytes"}
    for word in ("adalind", "tarn-and-fell", "Tarnside", "127.0.0.1", secret[1]):
        assert word not in log.read_text(), word
    # The night's backup was made as it began, and the next start says nothing of a first person.
    assert list((tmp_path / "backups").glob("thermaxis-*.backup"))
