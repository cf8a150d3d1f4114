"""python -m fuzz TARGET SECONDS: look for bytes that a reader fails on, guided by the code they reach.

What reaches something new is kept in the corpus, and tried in every run of the tests; what fails is left in
the present folder.
"""

import sys

import atheris

# Compiled kernels are left alone: what is watched is what decides by the bytes.
WATCHED = (
    "nubilis.photo.read", "nubilis.photo.boxes", "nubilis.photo.exr", "nubilis.photo.grey",
    "nubilis.photo.metadata", "nubilis.photo.png", "nubilis.photo.raw", "nubilis.photo.foreign",
    "nubilis.recipe", "nubilis.look.cube", "nubilis.library.exchange", "nubilis.mask.named_key",
    "tifffile", "PIL",
)  # fmt: skip
DOCUMENTS = ("recipe", "recipe-file", "references", "keys")
MOST_BYTES = {"photo": 32768, "recipe-file": 16384}
with atheris.instrument_imports(include=list(WATCHED)):
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
