"""python -m fuzz TARGET SECONDS: look for bytes that a reader fails on, guided by the code they reach.

What reaches something new is kept in the corpus, and tried in every run of the tests; what fails is left in
the present folder.
"""

import sys
from pathlib import Path

import atheris

CORE = Path(__file__).resolve().parents[1]
WATCHED = ("nubilis", "tifffile", "PIL")  # packages
# What is compiled cannot be watched; what decides by the bytes is not.
COMPILED = [
    ".".join(file.relative_to(CORE).with_suffix("").parts)
    for file in (CORE / "nubilis").rglob("*.py")
    if file.stem == "kernels" or "from nubilis.kernels import" in file.read_text()
]
DOCUMENTS = ("recipe", "recipe-file", "references", "keys")
MOST_BYTES = {"photo": 32768, "work": 32768, "recipe-file": 16384}
with atheris.instrument_imports(include=list(WATCHED), exclude=COMPILED):
    from fuzz.mutate import mutator
    from fuzz.targets import CORPUS, TARGETS, tried


def main(name: str, seconds: str) -> None:
    target = TARGETS[name]
    folder = CORPUS / name
    folder.mkdir(parents=True, exist_ok=True)
    words = [
        sys.argv[0],
        str(folder),
        f"-max_total_time={seconds}",
        f"-max_len={MOST_BYTES.get(name, 4096)}",
        "-timeout=5",
        "-rss_limit_mb=4096",
        "-print_final_stats=1",
    ]
    own = {"custom_mutator": mutator} if name in DOCUMENTS else {}
    atheris.Setup(words, lambda data: tried(target, data), **own)
    atheris.Fuzz()


if __name__ == "__main__":
    main(*sys.argv[1:3])
