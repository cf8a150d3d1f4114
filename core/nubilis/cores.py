"""Many small pieces of work, one a core: kernels need not wait for each other's last row."""

from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

import numba as nb

T = TypeVar("T")
Made = TypeVar("Made")


def each_on_one_core(make: Callable[[T], Made], pieces: Sequence[T]) -> Iterator[Made]:
    """Does all, as far as they go on at once, and gives what was made of each, in their order; what is not
    begun is left when the caller stops asking, or when one raises."""
    pool = ThreadPoolExecutor(nb.get_num_threads(), initializer=nb.set_num_threads, initargs=(1,))
    try:
        yield from pool.map(make, pieces)
    finally:
        pool.shutdown(cancel_futures=True)
