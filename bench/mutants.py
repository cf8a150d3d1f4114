"""Mutation check: faults put in one by one, each of which the default tier of tests should notice.

Sites are spread by a fixed seed over core, server and browser. A mutant is tried in a copy of the tree, by
the tests nearest to it first, then by all those of its area: of the core, of the server without a browser, or
in the browser. The first failure ends it. What only another area's tests would notice counts as missed.

By hand: ./nubilis bench mutants, or .venv/bin/python -m bench.mutants [COUNT] [FIRST] for some of them.
"""

import ast
import os
import random
import re
import shutil
import subprocess
import sys
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from launch.common import ROOT, VAR, VENV_PYTHON, product_environment

COUNT = 60
SEED = 37
COPY = VAR / "mutants"
SHARES = {"core": 24, "server": 22, "web": 14}  # of 60
WANTED = 0.85


@dataclass(frozen=True)
class Mutant:
    """In a file, from one byte to another, other text."""

    file: str
    kind: str
    start: int
    end: int
    text: str

    @property
    def area(self) -> str:
        return self.file.split("/")[0]

    def described(self, source: bytes) -> str:
        line = source.count(b"\n", 0, self.start) + 1
        was = source[self.start : self.end].decode()
        return f"{self.file}:{line} {self.kind}: `{was}` -> `{self.text}`"


def chosen(count: int = COUNT) -> list[Mutant]:
    """Evenly of all kinds that an area has, each in another file as long as there are files."""
    found: list[Mutant] = []
    for area, share in SHARES.items():
        rng = random.Random(f"{SEED} {area}")
        sites = sorted(_sites(area), key=lambda m: (m.file, m.start, m.text))
        rng.shuffle(sites)
        kinds = sorted({m.kind for m in sites})
        files: set[str] = set()
        for i in range(share * count // COUNT):
            kind = kinds[i % len(kinds)]
            ours = [m for m in sites if m.kind == kind]
            one = next((m for m in ours if m.file not in files), ours[0])
            sites.remove(one)
            files.add(one.file)
            found.append(one)
    return found


def _sites(area: str) -> Iterator[Mutant]:
    folder = {"core": "core/nubilis", "server": "server", "web": "web/src/lib"}[area]
    tracked = subprocess.run(
        ["git", "ls-files", folder], cwd=ROOT, capture_output=True, text=True, check=True
    ).stdout.split()
    for name in tracked:
        if re.search(
            r"/(tests|migrations|management|demo)/|config/runner|\.test\.ts$|/demo\.py$", name
        ):
            continue
        if name.endswith(".py"):
            yield from _of_python(name, (ROOT / name).read_text())
        elif name.endswith((".ts", ".svelte")):
            yield from _of_script(name, (ROOT / name).read_text())


SWAPPED = {
    ast.Add: ("sign", "+", "-"), ast.Sub: ("sign", "-", "+"),
    ast.Lt: ("bound", "<", "<="), ast.LtE: ("bound", "<=", "<"),
    ast.Gt: ("bound", ">", ">="), ast.GtE: ("bound", ">=", ">"),
    ast.Eq: ("condition", "==", "!="), ast.NotEq: ("condition", "!=", "=="),
}  # fmt: skip
WEAKER = {"own_": "seen_", "worked_": "seen_"}


def _of_python(name: str, source: str) -> Iterator[Mutant]:
    lines = source.encode().splitlines(keepends=True)
    starts = [0]
    for line in lines:
        starts.append(starts[-1] + len(line))
    data = source.encode()

    def span(node: ast.expr) -> tuple[int, int]:
        assert node.end_lineno is not None and node.end_col_offset is not None
        return (
            starts[node.lineno - 1] + node.col_offset,
            starts[node.end_lineno - 1] + node.end_col_offset,
        )

    def between(left: ast.expr, right: ast.expr, op: object) -> Iterator[Mutant]:
        swap = SWAPPED.get(type(op))  # type: ignore[arg-type]
        # Whether a limit belongs to it matters for what is counted, hardly ever for what is measured.
        if swap and (swap[0] != "bound" or _counted(left) or _counted(right)):
            kind, was, text = swap
            a, b = span(left)[1], span(right)[0]
            at = data.find(was.encode(), a, b)
            if at >= 0:
                yield Mutant(name, kind, at, at + len(was), text)

    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.BinOp) and not isinstance(node.left, ast.Constant | ast.JoinedStr):
            yield from between(node.left, node.right, node.op)
        elif isinstance(node, ast.Compare):
            yield from between(node.left, node.comparators[0], node.ops[0])
        elif isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
            yield from _of_call(name, node, span(node.func))
        elif isinstance(node, ast.Subscript) and _key(node):
            start, end = span(node.slice)
            yield Mutant(name, "wrong key", start, end, repr(f"{_key(node)}_"))


def _counted(node: ast.expr) -> bool:
    whole = isinstance(node, ast.Constant) and isinstance(node.value, int)
    return whole or "len(" in ast.unparse(node)


def _key(node: ast.Subscript) -> str:
    """What is looked up by a text; not what is written in a type."""
    key = node.slice.value if isinstance(node.slice, ast.Constant) else None
    typed = isinstance(node.value, ast.Name) and node.value.id[0].isupper()
    known = isinstance(key, str) and isinstance(node.ctx, ast.Load) and key[:1].islower()
    return str(key) if known and not typed else ""


def _of_call(name: str, node: ast.Call, where: tuple[int, int]) -> Iterator[Mutant]:
    called = node.func.id if isinstance(node.func, ast.Name) else ""
    for strong, weak in WEAKER.items():
        if name.startswith("server/") and re.fullmatch(strong + "(photo|shoot)", called):
            yield Mutant(name, "missing right", *where, weak + called.removeprefix(strong))
    if called in ("min", "max"):
        yield Mutant(name, "bound", *where, "max" if called == "min" else "min")


_SCRIPT = (
    ("dropped await", r"(?<=[\s(])await (?=[\w.]+\()", ""),
    ("condition", r"(?<=\w) === (?=[\w'])", " !== "),
    ("condition", r" && ", " || "),
    ("bound", r"(?<=[\w)]) < (?=[\w(])", " <= "),
    ("bound", r"(?<=[\w)]) >= (?=[\w(])", " > "),
    ("bound", r"Math\.min\(", "Math.max("),
    ("sign", r"(?<=[\w)]) - (?=[\w(])", " + "),
    ("sign", r"(?<=[\w)]) \+ (?=[\w(])", " - "),
)


def _of_script(name: str, source: str) -> Iterator[Mutant]:
    ends = source.find("</script>") if name.endswith(".svelte") else len(source)
    for line in re.finditer(r"^.*$", source[: max(ends, 0)], re.MULTILINE):
        if re.match(r"\s*(//|\*|/\*|import |export type |type |interface )", line[0]):
            continue
        for kind, pattern, text in _SCRIPT:
            for found in re.finditer(pattern, line[0]):
                start = len(source[: line.start() + found.start()].encode())
                yield Mutant(name, kind, start, start + len(found[0].encode()), text)


def _nearest(mutant: Mutant) -> subprocess.CompletedProcess[str] | None:
    """The tests that name what was changed, as far as they can be told, run by themselves: soon over."""
    if mutant.area == "web":
        file = mutant.file.removeprefix("web/")
        words = ["npx", "vitest", "related", "--run", "--bail", "1", "--passWithNoTests", file]
        return _run(words, COPY / "web")
    if mutant.area == "server":
        return _tests([mutant.file.split("/")[1]], "--only-tests")
    module = mutant.file.removeprefix("core/").removesuffix(".py").replace("/", ".")
    tests = sorted((COPY / "core/tests").glob("test_*.py"))
    naming = [f"core.tests.{t.stem}" for t in tests if module in t.read_text()]
    # Kernels are made anew by set-up alone.
    if naming and "@compiled" not in (COPY / mutant.file).read_text():
        return _run([str(VENV_PYTHON), "-m", "unittest", "--failfast", "-q", *naming], COPY)
    return None


def _run(words: list[str], folder: Path) -> subprocess.CompletedProcess[str]:
    env = product_environment() | {
        "PYTHONPATH": f"{COPY / 'core'}:{COPY / 'server'}:{COPY}",
        "NUMBA_CACHE_DIR": str(COPY / "var/kernels"),
        "NUBILIS_VAR": str(COPY / "var"),
        "PYTHONPYCACHEPREFIX": str(COPY / "var/bytecode"),
    }
    return subprocess.run(words, cwd=folder, capture_output=True, text=True, check=False, env=env)


def _prepared() -> None:
    """A copy of what is tracked, with what set-up made lent to it."""
    shutil.rmtree(COPY, ignore_errors=True)
    names = subprocess.run(
        ["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, text=True, check=True
    ).stdout.split("\0")
    for name in filter(None, names):
        if (ROOT / name).is_file():
            (COPY / name).parent.mkdir(parents=True, exist_ok=True)
            shutil.copy2(ROOT / name, COPY / name)
    (COPY / ".venv").symlink_to(ROOT / ".venv")
    (COPY / "web/node_modules").symlink_to(ROOT / "web/node_modules")
    (COPY / "var/stamps").mkdir(parents=True)
    (COPY / "var/models").symlink_to(VAR / "models")
    for step in ("venv", "base", "test", "node", "npm"):
        if (VAR / "stamps" / step).is_file():
            shutil.copy2(VAR / "stamps" / step, COPY / "var/stamps" / step)
    _tests(["core.tests.test_architecture"])


def _tests(labels: list[str], *words: str) -> subprocess.CompletedProcess[str]:
    return _run([str(COPY / "nubilis"), "test", "--failfast", *words, *labels], COPY)


def caught_by(mutant: Mutant) -> str:
    """What noticed it; nothing when nobody did."""
    file = COPY / mutant.file
    source = file.read_bytes()
    file.write_bytes(source[: mutant.start] + mutant.text.encode() + source[mutant.end :])
    try:
        for tried in (_nearest, _area):
            done = tried(mutant)
            if done is not None and done.returncode:
                failed = re.findall(
                    r"^(?:FAIL|ERROR): (\S+)| FAIL  (\S+)", done.stdout + done.stderr, re.M
                )
                return "".join(failed[0]) if failed else "checks or set-up"
        return ""
    finally:
        file.write_bytes(source)
        os.utime(file)


def _area(mutant: Mutant) -> subprocess.CompletedProcess[str]:
    if mutant.area == "server":
        apps = [
            p.parent.name for p in (COPY / "server").glob("*/tests") if p.parent.name != "walks"
        ]
        return _tests(sorted(apps), "--only-tests")
    if mutant.area == "web":
        checked = _run(["npm", "run", "--silent", "check"], COPY / "web")
        return checked if checked.returncode else _tests(["walks"], "--only-tests")
    return _tests(["core"], "--only-tests")


def report(count: int = COUNT, first: int = 0) -> list[str]:
    _prepared()
    mutants = chosen(count)[first:]
    survivors: list[str] = []
    lines = ["| | mutant | noticed by | s |", "|---|---|---|---|"]
    for number, mutant in enumerate(mutants, start=first + 1):
        began = time.monotonic()
        told = mutant.described((COPY / mutant.file).read_bytes())
        by = caught_by(mutant)
        if not by:
            survivors.append(told)
        line = f"| {number} | {told} | {by or '**nobody**'} | {time.monotonic() - began:.0f} |"
        print(line, file=sys.stderr, flush=True)
        lines.append(line)
    caught = len(mutants) - len(survivors)
    share = caught / max(len(mutants), 1)
    return [*lines, "", f"{caught} of {len(mutants)} noticed: {share:.0%} (asked {WANTED:.0%})"]


if __name__ == "__main__":
    print("\n".join(report(*(int(word) for word in sys.argv[1:]))))
