"""How kernels are compiled: one decorator, so that every phenomenon is built the same way."""

from __future__ import annotations

from collections.abc import Callable
from typing import ParamSpec, TypeVar, cast

import numba

P = ParamSpec("P")
R = TypeVar("R")


def compiled(function: Callable[P, R]) -> Callable[P, R]:
    """Compile a scalar kernel to machine code, cached beside its source.

    No fast-math: NaN must stay NaN, and a batch of one must equal a batch of many to the last bit.
    """
    wrap = numba.njit(cache=True, nogil=True, error_model="numpy", fastmath=False)
    return cast(Callable[P, R], wrap(function))
