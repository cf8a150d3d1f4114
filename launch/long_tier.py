"""When the long tier must run again: what it guards has changed since it last passed."""

from pathlib import Path

from launch.common import ROOT, fingerprint

PASSED = ROOT / ".ci/long-tier-passed"  # the state at which it did
GUARDED = "launch", "server/jobs", "server/keeping", "core/fuzz"


def changed() -> bool:
    return not PASSED.is_file() or PASSED.read_text().strip() != _state()


def remember_passed() -> None:
    """To be committed with what was tested."""
    PASSED.write_text(_state() + "\n")


def _state() -> str:
    guarded = [p for tree in GUARDED for p in (ROOT / tree).rglob("*.py")]
    trees = (ROOT / "core", ROOT / "server", ROOT / "bench")
    tests = [p for tree in trees for p in tree.rglob("tests/*.py")]
    return fingerprint({*guarded, *(p for p in tests if _says_long(p))})


def _says_long(test: Path) -> bool:
    return "@long_tier" in test.read_text()
