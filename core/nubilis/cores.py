"""Many small pieces of work, one a core: kernels need not wait for each other's last row."""

from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

import numba as nb

T = TypeVar("T")


def each_on_one_core(make: Callable[[T], None], pieces: Sequence[T]) -> Iterator[None]:
    """Does all, in any order as far as they go on at once, and tells each that is done; what is not begun is
    left when the caller stops asking, or when one raises."""
    pool = ThreadPoolExecutor(nb.get_num_threads(), initializer=nb.set_num_threads, initargs=(1,))
    try:
        yield from pool.map(make, pieces)
    finally:
        pool.shutdown(cancel_futures=True)
