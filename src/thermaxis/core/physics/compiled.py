"""How kernels are compiled: one decorator, so that every phenomenon is built the same way."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from pathlib import Path
from typing import Any, ParamSpec, TypeVar, cast

import numba
from numba.core import config

P = ParamSpec("P")
R = TypeVar("R")


def _cache_folder() -> Path:
    """A folder for machine code named after the sources it came from.

    The compiler's own check looks at one file only; a kernel must also be built anew where one it calls has changed.
    """
    here = Path(__file__).parent
    digest = hashlib.sha256()
    for source in sorted(here.glob("*.py")):
        digest.update(source.read_bytes())
    return here / "__pycache__" / f"kernels-{digest.hexdigest()[:12]}"


config.CACHE_DIR = str(_cache_folder())  # type: ignore[attr-defined]


def compiled(function: Callable[P, R]) -> Callable[P, R]:
    """Compile a scalar kernel to machine code, cached beside its source.

    Of fast-math only fused multiply-add is allowed, worth a fifth of the time: NaN must stay NaN, and a batch of one
    must equal a batch of many to the last bit.
    """
    wrap = numba.njit(cache=True, nogil=True, error_model="numpy", fastmath={"contract"})
    return cast(Callable[P, R], wrap(function))


def interpreted(function: Callable[P, R]) -> Callable[P, R]:
    """The same kernel without its machine code, which takes a second to load: for what is computed on import."""
    return cast(Callable[P, R], cast(Any, function).py_func)
