"""The verbs of ./nubilis."""

import argparse
import os
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import NoReturn

from launch import build, testing
from launch.common import (
    ROOT,
    VAR,
    VENV_PYTHON,
    LaunchError,
    product_environment,
    say,
)
from launch.database import Database, free_port
from launch.fuzzing import fuzz_arguments
from launch.services import MANAGE
from launch.serving import keeping_arguments, need_disk, serving_arguments, worker_arguments

# A command, where it runs, and its environment.
_Check = tuple[tuple[str, ...], Path, dict[str, str]]
TEST_SCHEMAS = r"test\_nubilis%"
COMPUTING = ("find", "fix", "apply", "table", "people", "follow", "agree", "camera", "measure")


def main(arguments: list[str]) -> int:
    """Run one verb; errors that a person can act on are one line, exit code 2."""
    if not arguments or arguments[0] not in COMPUTING:
        os.umask(0o077)  # what the product keeps is nobody else's to read
    try:
        if arguments and arguments[0] in COMPUTING:
            return _compute(arguments)
        options = _parser().parse_args(arguments)
        return int(options.verb(options))
    except LaunchError as error:
        say(f"nubilis: {error}")
    except OSError as error:
        say(f"nubilis: {error.strerror or error}: {error.filename or ''}")
    except KeyboardInterrupt:
        say("nubilis: interrupted")
    return 2


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        raise LaunchError(f"{message} (./nubilis --help)")


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(
        prog="nubilis",
        description="Finds and neutralises colour casts inside masks.",
        epilog="For pictures on the command line: find, fix, apply, table, people, measure (--help).",
    )
    verbs = parser.add_subparsers(required=True, metavar="verb")
    verbs.add_parser("setup", help="install and build all").set_defaults(verb=_setup)
    demo = verbs.add_parser("demo", help="set up and start with demo data")
    serving_arguments(demo, demo=True)
    serving_arguments(verbs.add_parser("serve", help="set up and start"), demo=False)
    for verb, text in (
        ("backup", "everything that people have made, into FILE"),
        ("restore", "what FILE holds, onto an empty machine"),
        ("doctor", "what is wrong with this machine or its data"),
    ):
        keeping_arguments(verbs.add_parser(verb, help=text), verb)
    worker_arguments(verbs.add_parser("worker", help="do long work for others that serve"))
    test = verbs.add_parser("test", help="set up and run all tests")
    test.add_argument("labels", nargs="*", help="only these, e.g. core.tests.test_mask")
    test.add_argument("--only-tests", action="store_true", help="leave the code checks out")
    test.add_argument("--parts", type=int, default=os.cpu_count() or 1, help="run so many at once")
    test.set_defaults(verb=_test)
    fuzz_arguments(verbs.add_parser("fuzz", help="look long for what no test thought of"))
    bench = verbs.add_parser("bench", help="measure accuracy, speed and memory")
    bench.add_argument("what", nargs="*", help="accuracy, finding, speed, memory (all)")
    bench.set_defaults(verb=_bench)
    return parser


def _setup(_: argparse.Namespace) -> int:
    need_disk()
    build.everything_ready()
    say("Ready: ./nubilis demo")
    return 0


def _compute(arguments: list[str]) -> int:
    build.python_ready()
    # The words are the caller's own, so their relative paths must be too.
    os.execve(
        VENV_PYTHON, [str(VENV_PYTHON), "-m", "nubilis.cli", *arguments], product_environment()
    )


def _test(options: argparse.Namespace) -> int:
    started = time.monotonic()
    build.everything_ready(for_test=True)
    if not options.only_tests and not options.labels and _check_code():
        return 1
    labels = options.labels or [str(ROOT / tree) for tree in ("core", "server", "bench", "launch")]
    database = Database("test-mariadb", free_port(), TEST_SCHEMAS)
    try:
        database.start()
        env = database.environment()
        env["PYTHONPATH"] += os.pathsep + str(ROOT)
        code = testing.run_shared([MANAGE, "test", "--noinput", *labels], env, options.parts)
    finally:
        database.stop()
    say(f"{time.monotonic() - started:.0f} s")
    return code


def _check_code() -> int:
    """Formatting, lint and types of both languages, beside each other: each takes one core."""
    python = str(VENV_PYTHON), "-m"
    trees = "nubilis", "launch", "core", "server", "bench"
    own = product_environment()
    lanes: list[list[_Check]] = [
        [
            ((*python, "ruff", "check", "-q", *trees), ROOT, own),
            ((*python, "ruff", "format", "--check", "-q", *trees), ROOT, own),
            ((*python, "mypy", "--strict"), ROOT, own),
        ],
        [(("npm", "run", "--silent", "check"), ROOT / "web", build.node_environment())],
    ]
    with ThreadPoolExecutor(len(lanes)) as pool:
        return max(pool.map(_checked, lanes))


def _checked(lane: list[_Check]) -> int:
    """The first exit code that is not 0."""
    for (program, *words), folder, env in lane:
        say(" ".join(["Checking:", Path(program).name, *words]))
        command = [program, *words]
        if code := subprocess.run(command, cwd=folder, env=env, check=False).returncode:
            return abs(code)
    return 0


def _bench(options: argparse.Namespace) -> int:
    build.python_ready()
    build.python_packages("test")
    env = product_environment()
    env["PYTHONPATH"] += os.pathsep + str(ROOT)
    (VAR / "bench").mkdir(parents=True, exist_ok=True)
    return build.run_in_venv(["-m", "bench.run", *options.what], env)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
