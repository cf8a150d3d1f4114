"""The verbs of ./nubilis."""

import argparse
import os
import sys
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
from launch.fuzzing import fuzz_arguments
from launch.serving import keeping_arguments, need_disk, serving_arguments, worker_arguments

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
    testing.test_arguments(verbs.add_parser("test", help="set up and run checks and tests"))
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


def _bench(options: argparse.Namespace) -> int:
    build.python_ready()
    build.python_packages("test")
    env = product_environment()
    env["PYTHONPATH"] += os.pathsep + str(ROOT)
    (VAR / "bench").mkdir(parents=True, exist_ok=True)
    return build.run_in_venv(["-m", "bench.run", *options.what], env)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
