"""Who computes for long stands aside for short questions, and only for those."""

from __future__ import annotations

import threading
from concurrent.futures import ThreadPoolExecutor

from thermaxis.apps.accounts.pace import PACE, Pace
from thermaxis.core import breath
from thermaxis.core.breath import breathing

LONG_S = 60.0


def test_a_long_loop_stands_aside_until_the_short_question_is_answered() -> None:
    pace, order = Pace(LONG_S, LONG_S), []
    asked, breathing_in = threading.Event(), threading.Event()

    def short() -> None:
        with pace.answering():
            asked.set()
            assert breathing_in.wait(LONG_S)
            order.append("answered")

    def long() -> None:
        with pace.answering(), pace.for_long():
            assert asked.wait(LONG_S)
            breathing_in.set()
            pace.breath()
            order.append("went on")

    with ThreadPoolExecutor(2) as pool:
        for work in [pool.submit(short), pool.submit(long)]:
            work.result(LONG_S)
    assert order == ["answered", "went on"]


def test_nobody_waits_for_themselves_for_others_who_compute_or_for_who_has_waited_long() -> None:
    pace = Pace(LONG_S, LONG_S)
    with pace.answering():
        # A short question with a loop of its own.
        pace.breath()
        with pace.for_long():
            pace.breath()
            with ThreadPoolExecutor(1) as pool:

                def another() -> None:
                    with pace.answering(), pace.for_long():
                        pace.breath()

                pool.submit(another).result(LONG_S)
        # Its turn over, it is a question like any other again.
        assert list(pace._since) == [threading.get_ident()]
        impatient = Pace(0.0, LONG_S)
        with impatient.answering(), ThreadPoolExecutor(1) as pool:

            def beside() -> None:
                with impatient.for_long():
                    impatient.breath()

            pool.submit(beside).result(LONG_S)
    assert (pace._since, pace._long) == ({}, set())


def test_the_server_s_long_loops_breathe_at_its_pace() -> None:
    assert breath._at_each == [PACE.breath]
    assert list(breathing("abc")) == ["a", "b", "c"]
