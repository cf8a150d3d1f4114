"""./nubilis bench [PART ...]: print figures as Markdown; without parts, all of them."""

import sys
import time

from bench import (
    accuracy,
    choosing,
    finding,
    hostile,
    masks,
    memory,
    mutants,
    objects,
    people,
    remedies,
    series,
    shaping,
    speed,
)

PARTS = {
    "accuracy": accuracy.report,
    "finding": finding.report,
    "choosing": choosing.report,
    "remedies": remedies.report,
    "shaping": shaping.report,
    "people": people.report,
    "series": series.report,
    "speed": speed.report,
    "masks": masks.report,
    "objects": objects.report,
    "memory": memory.report,
    "hostile": hostile.report,
}
APART = {"mutants": mutants.report}  # takes an hour: only when it is asked for


def main(names: list[str]) -> int:
    every = PARTS | APART
    unknown = [n for n in names if n not in every]
    if unknown:
        print(f"nubilis: bench knows {', '.join(every)}, not {unknown[0]}", file=sys.stderr)
        return 2
    for name in names or list(PARTS):
        started = time.perf_counter()
        print(f"## {name.capitalize()}\n")
        print("\n".join(every[name]()))
        print(f"\n({time.perf_counter() - started:.0f} s)\n", flush=True)
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
