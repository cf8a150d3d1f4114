"""Compile everything that Python calls compiled, for its declared types, into the cache on disk."""

import pkgutil
from concurrent.futures import ProcessPoolExecutor
from importlib import import_module

import nubilis
from nubilis.cores import CORES
from nubilis.kernels import Compiled


def everything() -> list[Compiled]:
    """All that is compiled, of all modules."""
    for module in pkgutil.walk_packages(nubilis.__path__, "nubilis."):
        if not module.name.endswith("__main__"):
            import_module(module.name)
    return Compiled.everything


def main() -> None:
    """Print how far it is after each, "12 of 80". The compiler takes one core: one of it runs on each."""
    count = len(everything())
    with ProcessPoolExecutor(CORES) as pool:
        for done, _ in enumerate(pool.map(_make, range(count)), start=1):
            print(f"{done} of {count}", flush=True)


def _make(index: int) -> None:
    """In a fork of the process that has imported everything."""
    Compiled.everything[index].make()


if __name__ == "__main__":
    main()
