"""The verbs of ./nubilis."""

import argparse
import os
import shutil
import subprocess
import sys
import time
from pathlib import Path
from typing import NoReturn

from launch import build, testing
from launch.common import (
    ROOT,
    VAR,
    VENV_PYTHON,
    LaunchError,
    end_with_parent,
    product_environment,
    say,
)
from launch.database import Database, free_port, port_is_free
from launch.supervise import Stop, end, on_stop_signals, supervise

MANAGE = str(ROOT / "server/manage.py")
TEST_SCHEMAS = r"test\_nubilis%"
COMPUTING = ("find", "fix", "apply", "table", "people", "follow", "agree", "camera", "measure")
ENOUGH_DISK = 300 * 2**20
WEB_PATIENCE = 15.0  # seconds for what is being answered


def main(arguments: list[str]) -> int:
    """Run one verb; errors that a person can act on are one line, exit code 2."""
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
    for name, verb, text in (
        ("demo", _demo, "set up and start with demo data"),
        ("serve", _serve, "set up and start"),
    ):
        sub = verbs.add_parser(name, help=text)
        sub.add_argument("--port", type=int, default=8642)
        sub.add_argument("--database-port", type=int, default=33642)
        sub.set_defaults(verb=verb)
    test = verbs.add_parser("test", help="set up and run all tests")
    test.add_argument("labels", nargs="*", help="only these, e.g. core.tests.test_mask")
    test.add_argument("--only-tests", action="store_true", help="leave the code checks out")
    test.add_argument("--parts", type=int, default=os.cpu_count() or 1, help="run so many at once")
    test.set_defaults(verb=_test)
    bench = verbs.add_parser("bench", help="measure accuracy, speed and memory")
    bench.add_argument("what", nargs="*", help="accuracy, finding, speed, memory (all)")
    bench.set_defaults(verb=_bench)
    return parser


def _need_disk() -> None:
    if shutil.disk_usage(ROOT).free < ENOUGH_DISK:
        raise LaunchError("the disk is nearly full: 300 MB must be free to start")


def _setup(_: argparse.Namespace) -> int:
    _need_disk()
    build.everything_ready()
    say("Ready: ./nubilis demo")
    return 0


def _compute(arguments: list[str]) -> int:
    build.python_ready()
    # The words are the caller's own, so their relative paths must be too.
    os.execve(
        VENV_PYTHON, [str(VENV_PYTHON), "-m", "nubilis.cli", *arguments], product_environment()
    )


def _demo(options: argparse.Namespace) -> int:
    return _start(options, demo=True)


def _serve(options: argparse.Namespace) -> int:
    return _start(options, demo=False)


def _start(options: argparse.Namespace, *, demo: bool) -> int:
    if not port_is_free(options.port):
        raise LaunchError(f"port {options.port} is busy; choose another with --port")
    _need_disk()
    build.everything_ready()
    on_stop_signals(_interrupt)
    database = Database("mariadb", options.database_port)
    web = WebServer(options.port, database.environment() | {"NUBILIS_DEMO": "1" if demo else "0"})
    try:
        database.start()
        _manage(["migrate", "--verbosity", "0"], web.env)
        _manage(["load_demo"] if demo else ["first_account"], web.env)
        told_to_stop = Stop()
        on_stop_signals(told_to_stop.set)
        web.start()
        supervise([database, web], told_to_stop)
        return 0
    finally:
        web.stop()
        database.stop()


def _interrupt() -> None:
    raise KeyboardInterrupt


def _manage(arguments: list[str], env: dict[str, str]) -> None:
    if build.run_in_venv([MANAGE, *arguments], env):
        raise LaunchError(f"{arguments[0]} failed, see above")


class WebServer:
    """The web process."""

    name = "web server"

    def __init__(self, port: int, env: dict[str, str]) -> None:
        self.port, self.env = port, env
        self.process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        # A session of its own: Ctrl-C comes through the launcher.
        self.process = subprocess.Popen(
            [str(VENV_PYTHON), MANAGE, "web", "--port", str(self.port)],
            env=self.env,
            start_new_session=True,
            preexec_fn=end_with_parent,  # noqa: PLW1509 (no threads here)
        )

    def stop(self) -> None:
        end(self.process, self.name, WEB_PATIENCE)


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
    """Formatting, lint and types of both languages."""
    node = build.node_environment()
    python = str(VENV_PYTHON)
    trees = ["nubilis", "launch", "core", "server", "bench"]
    checks: list[tuple[list[str], Path, dict[str, str]]] = [
        ([python, "-m", "ruff", "check", "-q", *trees], ROOT, product_environment()),
        ([python, "-m", "ruff", "format", "--check", "-q", *trees], ROOT, product_environment()),
        (
            [python, "-m", "mypy", "--strict"],
            ROOT,
            product_environment(),
        ),
        (["npm", "run", "--silent", "check"], ROOT / "web", node),
    ]
    for command, folder, env in checks:
        say(
            "Checking: "
            + " ".join(Path(command[0]).name if c == command[0] else c for c in command)
        )
        code = subprocess.run(command, cwd=folder, env=env, check=False).returncode
        if code:
            return code
    return 0


def _bench(options: argparse.Namespace) -> int:
    build.python_ready()
    env = product_environment()
    env["PYTHONPATH"] += os.pathsep + str(ROOT)
    (VAR / "bench").mkdir(parents=True, exist_ok=True)
    return build.run_in_venv(["-m", "bench.run", *options.what], env)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
