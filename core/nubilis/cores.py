"""Threads of our own: rows of one picture shared out, or many pieces of work, one a core."""

import os
import threading
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextvars import copy_context
from typing import TypeVar

T = TypeVar("T")
Made = TypeVar("Made")

CORES = int(os.environ.get("NUBILIS_CORES", "0")) or len(os.sched_getaffinity(0))
BANDS = 4  # a core: enough to even out, few enough that their calls cost nothing

_helpers = ThreadPoolExecutor(max(CORES - 1, 1), thread_name_prefix="rows")
_thread = threading.local()


def share_out(work: Callable[[tuple[int, int]], None], count: int, least: int) -> None:
    """Do 0 .. count - 1 in bands of at least `least`, on as many cores as have nothing else to do.

    work: of a band's first and one past its last; it lets go of Python's lock while it computes. The thread
    that asks works too, so it never waits for helpers that others keep busy.
    """
    if count <= least or CORES == 1 or getattr(_thread, "has_one_core", False):
        work((0, count))
        return
    size = max(least, -(-count // (CORES * BANDS)))
    starts = iter(range(0, count, size))

    def take_bands() -> None:
        for start in starts:
            work((start, min(start + size, count)))

    helpers = [_helpers.submit(take_bands) for _ in range(min(CORES, -(-count // size)) - 1)]
    try:
        take_bands()
    finally:
        for helper in helpers:
            if not helper.cancel():
                helper.result()


def each_on_one_core(make: Callable[[T], Made], pieces: Sequence[T]) -> Iterator[Made]:
    """Do all, as many at once as there are cores, and yield what was made of each, in their order.

    What is not begun is left when the caller stops asking, or when one raises. Each piece sees the caller's
    context variables, so it ends when the caller is not wanted any more.
    """
    contexts = [copy_context() for _ in pieces]
    pool = ThreadPoolExecutor(CORES, initializer=_keep_to_one_core)
    try:
        yield from pool.map(lambda context, piece: context.run(make, piece), contexts, pieces)
    finally:
        pool.shutdown(cancel_futures=True)


def _keep_to_one_core() -> None:
    _thread.has_one_core = True
