"""The house's own rules, where no import tells: who writes, who answers with what, how long a file may be."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path
from typing import get_type_hints

import pytest
from ninja.responses import Status

from thermaxis.api.mount import api

ROOT = Path(__file__).parents[1]
SRC = ROOT / "src" / "thermaxis"
WRITES = {"save", "create", "bulk_create", "update_or_create", "get_or_create", "delete", "update"}
# A session is not the workshop's data: it is written where the person signs in.
SESSIONS = "accounts/api/router.py"
# Written by Django, those of before as well.
MIGRATIONS = {"migrations", "older"}
LONGEST_FILE, LONGEST_FUNCTION = 400, 85


def modules(pattern: str) -> Iterator[tuple[str, ast.Module]]:
    for path in sorted(SRC.glob(pattern)):
        if not MIGRATIONS & set(path.parts):
            yield path.relative_to(SRC).as_posix(), ast.parse(path.read_text("utf-8"))


def calls(tree: ast.AST) -> Iterator[str]:
    for node in ast.walk(tree):
        if isinstance(node, ast.Call) and ast.unparse(node.func) != "router.delete":
            yield node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")


def test_no_router_writes() -> None:
    for name, tree in modules("apps/*/api/*.py"):
        if not name.endswith(SESSIONS):
            found = WRITES & set(calls(tree))
            assert not found, f"{name}: {found}"


def test_only_the_api_and_sessions_know_http() -> None:
    for name, tree in modules("apps/**/*.py"):
        if "/api/" in name or name in (
            "apps/accounts/sessions.py",
            "apps/accounts/demo_sign_in.py",
            "apps/accounts/by_key.py",
        ):
            continue
        for node in ast.walk(tree):
            module = node.module or "" if isinstance(node, ast.ImportFrom) else ""
            assert not module.startswith(("django.http", "django.shortcuts", "ninja")), name


def test_every_action_goes_through_the_one_door() -> None:
    """What an action exports either opens `act` itself or is given what one has opened, or a row it works on."""
    inner = {"Entry", "Standing", "LogEntry"}
    found = 0
    for name, tree in modules("apps/*/actions/*.py"):
        for node in tree.body:
            if not isinstance(node, ast.FunctionDef) or node.name.startswith("_"):
                continue
            writes = WRITES & set(calls(node))
            if not writes:
                continue
            found += 1
            names = {n.id for arg in node.args.args for n in ast.walk(arg.annotation or arg) if isinstance(n, ast.Name)}
            first = node.args.args[0].arg if node.args.args else ""
            within = first != "scope" and (names & inner or first in ("machine", "today"))
            assert "act" in set(calls(node)) or within, f"{name}: {node.name} writes without act()"
    assert found > 20


@pytest.mark.parametrize("path", sorted(SRC.rglob("*.py")), ids=lambda path: path.relative_to(SRC).as_posix())
def test_files_and_functions_stay_readable(path: Path) -> None:
    text = path.read_text("utf-8")
    assert text.count("\n") < LONGEST_FILE
    if MIGRATIONS & set(path.parts):
        return
    for node in ast.walk(ast.parse(text)):
        if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
            assert (node.end_lineno or 0) - node.lineno < LONGEST_FUNCTION, node.name


def test_every_handler_says_what_it_answers() -> None:
    """The annotation mypy checks and the schema the API promises are the same."""
    count = 0
    for _, router in api._routers:
        for view in router.path_operations.values():
            for operation in view.operations:
                count += 1
                returns = get_type_hints(operation.view_func)["return"]
                wanted = next(
                    (
                        model.model_fields["response"].annotation
                        for model in operation.response_models.values()
                        if model
                    ),
                    None,
                )
                if getattr(returns, "__name__", "") == "HttpResponse":
                    continue
                inner = returns.__args__[0] if getattr(returns, "__origin__", None) is Status else returns
                if wanted is None:
                    assert inner in (type(None), None), operation.operation_id
                else:
                    assert inner == wanted, (operation.operation_id, inner, wanted)
    assert count > 80


def test_what_is_promised_names_tests_that_there_are() -> None:
    """`docs/reliability.md` holds each promise by tests: by their names, as they stand."""
    named = set(re.findall(r"`(test_\w+)`", (ROOT / "docs" / "reliability.md").read_text("utf-8")))
    texts = [path.read_text("utf-8") for path in (ROOT / "tests").rglob("test_*.py")]
    there = {name for text in texts for name in re.findall(r"def (test_\w+)", text)}
    assert len(named) > 40
    assert named <= there
