"""The launcher: one-line errors, steps that are skipped when nothing changed, our own database."""

import contextlib
import io
import os
import re
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
import unittest
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any
from unittest import mock

import MySQLdb

from launch import build, common, machine, main
from launch.common import LaunchError
from launch.database import Database, free_port, port_is_free, read_secrets
from launch.supervise import Stop, Watched, end, on_stop_signals, supervise


class OneLine(unittest.TestCase):
    def told(self, *words: str) -> tuple[int, str]:
        err = io.StringIO()
        with contextlib.redirect_stderr(err):
            code = main.main(list(words))
        return code, err.getvalue()

    def refused(self, reason: str, *words: str) -> None:
        code, text = self.told(*words)
        self.assertEqual((code, text.count("\n")), (2, 1), text)
        self.assertIn(reason, text)

    def test_unknown_words(self) -> None:
        self.refused("invalid choice: 'dance'", "dance")
        self.refused("required", *())
        self.refused("--port", "demo", "--port", "many")

    def test_a_busy_port(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            self.assertFalse(port_is_free(port))
            self.refused("busy", "demo", "--port", str(port))
        self.assertTrue(port_is_free(port))

    def test_a_full_disk(self) -> None:
        full = mock.Mock(free=2**20)
        with mock.patch("launch.serving.shutil.disk_usage", return_value=full):
            self.refused("disk is nearly full", "setup")
            self.refused("disk is nearly full", "demo", "--port", str(free_port()))

    def test_an_interruption(self) -> None:
        with mock.patch("launch.main._setup", side_effect=KeyboardInterrupt):
            self.assertEqual(self.told("setup"), (2, "nubilis: interrupted\n"))


class Steps(unittest.TestCase):
    def setUp(self) -> None:
        self.var = Path(self.enterContext(tempfile.TemporaryDirectory(dir=common.VAR)))
        self.enterContext(mock.patch.object(common, "VAR", self.var))

    def test_a_failed_step_says_why_and_keeps_its_log(self) -> None:
        code = "print('much'); print('the reason'); raise SystemExit(3)"
        with self.assertRaisesRegex(LaunchError, "a step failed: the reason"):
            common.run([sys.executable, "-c", code], "a step")
        self.assertEqual((self.var / "log/a-step.log").read_text(), "much\nthe reason\n")

    def test_a_full_disk_during_a_step(self) -> None:
        code = "print('OSError: No space left on device'); print('bye'); raise SystemExit(1)"
        with self.assertRaisesRegex(LaunchError, "the disk is full"):
            common.run([sys.executable, "-c", code], "a step")

    def test_done_before_until_something_changes(self) -> None:
        file = common.ROOT / "pyproject.toml"
        mark = common.fingerprint([file])
        self.assertFalse(common.done_before("step", mark))
        common.remember("step", mark)
        self.assertTrue(common.done_before("step", mark))
        self.assertFalse(common.done_before("step", common.fingerprint([file], "changed")))

    def test_locked_packages_are_installed_once(self) -> None:
        with mock.patch.object(build, "run") as run:
            build.python_packages("test")
            build.python_packages("test")
        self.assertEqual(run.call_count, 2)  # each half once
        for call in run.call_args_list:
            self.assertIn("--require-hashes", call.args[0])

    def test_two_halves_are_all_of_a_lock(self) -> None:
        lock, halves = build.LOCKS / "test.txt", []
        with mock.patch.object(build, "run") as run:
            run.side_effect = lambda words, *_: halves.append(Path(words[-1]).read_text())
            build._install("test", lock)
        blocks = [
            sorted(re.findall(r"^\S+==\S+", text, re.M)) for text in (*halves, lock.read_text())
        ]
        self.assertEqual(sorted(blocks[0] + blocks[1]), blocks[2])
        self.assertEqual(sum(h.count("--hash") for h in halves), lock.read_text().count("--hash"))


class Machine(unittest.TestCase):
    def missing(self, which: dict[str, str]) -> list[str]:
        with mock.patch("launch.machine.shutil.which", lambda name, path=None: which.get(name)):
            return machine.missing_packages(for_python=True, for_server=True, for_test=False)

    def test_what_is_there_is_not_asked_for(self) -> None:
        names = ("gcc", "pkg-config", "mariadb_config", "mariadbd", "my_print_defaults")
        there = {name: f"/usr/bin/{name}" for name in names}
        self.assertFalse({"gcc", "mariadb-server-core"} & set(self.missing(there)))
        lacking = self.missing({})
        for name in (
            "gcc",
            "pkg-config",
            "libmariadb-dev",
            "mariadb-server-core",
            "mariadb-client-core",
        ):
            self.assertIn(name, lacking)

    def test_without_root_or_sudo_it_says_what_to_install(self) -> None:
        with (
            mock.patch("launch.machine.os.geteuid", return_value=1000),
            mock.patch("launch.machine.shutil.which", return_value=None),
            self.assertRaisesRegex(LaunchError, "apt install gcc chromium"),
        ):
            machine.install_packages(["gcc", "chromium"])

    def test_nothing_missing_nothing_done(self) -> None:
        with mock.patch("launch.machine.run") as run:
            machine.install_packages([])
        run.assert_not_called()

    def test_a_node_from_the_wheel_has_an_npm_that_works(self) -> None:
        with tempfile.TemporaryDirectory(dir=common.VAR) as name:
            wheel, var = Path(name) / "wheel", Path(name) / "var"
            npm = wheel / "lib/node_modules/npm/bin/npm-cli.js"
            for file in (wheel / "bin/node", npm):
                file.parent.mkdir(parents=True)
                file.write_text("#!/bin/sh\necho v22.1.0\n")
            with mock.patch.object(machine, "VAR", var):
                folder = machine._linked(wheel)
                folder = machine._linked(wheel)  # again: links are replaced
            self.assertEqual((folder / "npm").resolve(), npm.resolve())
            self.assertEqual(machine._node_version(folder / "node"), (22, 1))


class OwnDatabase(unittest.TestCase):
    def test_it_starts_twice_answers_and_stops(self) -> None:
        with tempfile.TemporaryDirectory(dir=common.VAR) as name:
            folder = Path(name).name
            for _ in range(2):
                database = Database(folder, free_port())
                with contextlib.redirect_stderr(io.StringIO()):
                    database.start()
                process = database.process
                assert process is not None
                self.assertIsNone(process.poll())
                self.assertFalse(port_is_free(database.port))
                environment = database.environment()
                self.assertEqual(environment["NUBILIS_DATABASE_PORT"], str(database.port))
                database.stop()
                self.assertEqual(process.poll(), 0)
            secrets = common.VAR / "secrets.json"
            self.assertEqual(secrets.stat().st_mode & 0o777, 0o600)

    def refused(self, **more: Any) -> None:
        with self.assertRaisesRegex(MySQLdb.OperationalError, "Access denied"):
            MySQLdb.connect(**more)

    def test_nobody_enters_without_a_password_also_where_root_once_had_none(self) -> None:
        with tempfile.TemporaryDirectory(dir=common.VAR) as name:
            folder = Path(name)
            user = ["--user=root"] if os.geteuid() == 0 else []
            # As an earlier version made it: root without a password, a schema for everybody.
            made = ["mariadb-install-db", "--no-defaults", f"--datadir={folder}", *user]
            made.append("--auth-root-authentication-method=normal")
            subprocess.run(made, check=True, capture_output=True)
            database = Database(folder.name, free_port(), "nubilis")
            database.start()
            self.addCleanup(database.stop)
            socket_path = str(folder / "server.sock")
            here = {"host": "127.0.0.1", "port": database.port}
            for who in ("root", "", "nubilis", "mariadb.sys"):
                self.refused(unix_socket=socket_path, user=who)
                self.refused(user=who, **here)
            known = read_secrets()
            self.refused(user="root", password=known["database"], unix_socket=socket_path)
            root = MySQLdb.connect(
                user="root", password=known["database_root"], unix_socket=socket_path
            )
            root.close()
            self.assertEqual(folder.stat().st_mode & 0o777, 0o700)
            accounts = folder / "accounts.sql"
            self.assertEqual(accounts.stat().st_mode & 0o777, 0o600)
            own = MySQLdb.connect(user="nubilis", password=known["database"], **here)
            cursor = own.cursor()
            cursor.execute("SHOW DATABASES")
            self.assertEqual({row[0] for row in cursor}, {"information_schema", "nubilis"})
            cursor.execute("SELECT @@secure_file_priv, @@local_infile, @@bind_address")
            ((closed, local, bound),) = cursor.fetchall()
            self.assertEqual((list(Path(closed).iterdir()), local, bound), ([], 0, "127.0.0.1"))
            for statement in (
                "SELECT User FROM mysql.global_priv",
                "CREATE DATABASE other",
                "SELECT 1 INTO OUTFILE '/tmp/nubilis-out'",
                "CREATE USER 'other'@'localhost'",
            ):
                with self.assertRaisesRegex(MySQLdb.OperationalError, "denied"):
                    cursor.execute(statement)
            cursor.execute("SELECT LOAD_FILE('/etc/passwd')")
            self.assertIsNone(cursor.fetchone()[0])
            own.close()

    def test_it_ends_with_a_killed_launcher(self) -> None:
        with tempfile.TemporaryDirectory(dir=common.VAR) as name:
            port = free_port()
            code = (
                "import time; from launch.database import Database;"
                f"Database({Path(name).name!r}, {port}).start(); print('up', flush=True); time.sleep(60)"
            )
            launcher = subprocess.Popen(
                [sys.executable, "-c", code], cwd=common.ROOT, stdout=subprocess.PIPE,
                stderr=subprocess.DEVNULL,
            )  # fmt: skip
            assert launcher.stdout is not None
            self.assertEqual(launcher.stdout.readline(), b"up\n")
            launcher.kill()
            launcher.communicate()
            for _ in range(100):
                if port_is_free(port):
                    break
                time.sleep(0.1)
            self.assertTrue(port_is_free(port))

    def test_what_a_killed_launcher_ran_ends_with_it(self) -> None:
        inner = "import os, time; print(os.getpid(), flush=True); time.sleep(60)"
        code = f"from launch import build; build.run_in_venv(['-c', {inner!r}])"
        launcher = subprocess.Popen(
            [sys.executable, "-c", code], cwd=common.ROOT, stdout=subprocess.PIPE
        )
        assert launcher.stdout is not None
        child = Path("/proc") / launcher.stdout.readline().decode().strip()
        self.assertTrue(child.exists())
        launcher.kill()
        launcher.communicate()
        for _ in range(100):
            if not child.exists():
                break
            time.sleep(0.1)
        self.assertFalse(child.exists())

    def test_a_taken_port_is_told(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            database = Database("never-made", taken.getsockname()[1])
            with self.assertRaisesRegex(LaunchError, "--database-port"):
                database.start()
        self.assertFalse(database.folder.exists())


class Sleeper:
    """A service that does nothing; words: what its process does instead."""

    name = "sleeper"
    log = None
    begins_anew = None

    def __init__(self, words: str = "import time; time.sleep(600)") -> None:
        self.words = words
        self.process: subprocess.Popen[bytes] | None = None
        self.started = 0

    def start(self) -> None:
        self.process = subprocess.Popen(
            [sys.executable, "-c", f"print(flush=True); {self.words}"], stdout=subprocess.PIPE
        )
        assert self.process.stdout is not None
        self.process.stdout.readline()
        self.process.stdout.close()
        self.started += 1  # last: whoever sees it may kill the process

    begin = start

    def stop(self) -> None:
        end(self.process, self.name, 0.2)


class Supervising(unittest.TestCase):
    def setUp(self) -> None:
        self.stop = Stop()
        self.told = io.StringIO()

    def watch(self, *services: Sleeper) -> threading.Thread:
        for service in services:
            service.start()
            self.addCleanup(service.stop)

        return self.watch_these([Watched(service, 0.01) for service in services])

    def watch_these(self, watched: Sequence[Watched]) -> threading.Thread:
        def work() -> None:
            with contextlib.redirect_stderr(self.told):
                supervise(watched, self.stop)

        thread = threading.Thread(target=work)
        thread.start()
        return thread

    def until(self, check: Callable[[], bool]) -> None:
        while not check():
            time.sleep(0.02)

    def test_what_ends_by_itself_is_said_and_started_again(self) -> None:
        first, second = Sleeper(), Sleeper()
        thread = self.watch(first, second)
        for round_ in (2, 3):
            assert second.process is not None
            second.process.kill()
            self.until(lambda round_=round_: second.started == round_)  # type: ignore[misc]
        self.stop.set()
        thread.join()
        self.assertEqual(first.started, 1)
        self.assertEqual(self.told.getvalue().count("ended by itself (signal 9)"), 2)
        for service in (first, second):
            assert service.process is not None
            self.assertIsNotNone(service.process.poll())

    def test_a_signal_may_come_while_one_waits_for_it(self) -> None:
        """An event's lock would be held by the very thread that the signal interrupts."""
        stop = Stop()
        before = [signal.getsignal(n) for n in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)]
        try:
            on_stop_signals(stop.set)
            signal.signal(signal.SIGALRM, lambda *_: signal.raise_signal(signal.SIGTERM))
            signal.setitimer(signal.ITIMER_REAL, 0.05)
            self.assertTrue(stop.wait(600.0))
        finally:
            for number, handler in zip(
                (signal.SIGINT, signal.SIGTERM, signal.SIGHUP), before, strict=True
            ):
                signal.signal(number, handler)

    def test_what_is_too_busy_to_end_is_ended_without_a_traceback(self) -> None:
        deaf = Sleeper("import signal, time; signal.signal(15, signal.SIG_IGN); time.sleep(600)")
        thread = self.watch(deaf)
        self.stop.set()
        thread.join()
        assert deaf.process is not None
        self.assertIn(deaf.process.returncode, (-9, -15))
        self.assertIn("Stopping", self.told.getvalue())
        self.assertNotIn("Traceback", self.told.getvalue())

    def test_what_cannot_be_started_again_is_said_and_tried_less_and_less(self) -> None:
        """Also for a reason that nobody foresaw, such as a disk that is full."""
        broken = Sleeper()
        thread = self.watch(broken)
        errors = [LaunchError("no room"), OSError(28, "No space left on device")] * 2
        with mock.patch.object(broken, "begin", side_effect=[*errors, None]) as begin:
            assert broken.process is not None
            broken.process.kill()
            self.until(lambda: begin.call_count == 5)
        self.stop.set()
        thread.join()
        self.assertEqual(self.told.getvalue().count("no room"), 2)
        self.assertEqual(self.told.getvalue().count("No space left"), 2)

    def test_one_that_waits_keeps_nobody_else_waiting(self) -> None:
        slow, other = Watched(Sleeper("pass"), 600.0), Sleeper()
        for service in (slow.service, other):
            service.start()
            self.addCleanup(service.stop)
        assert slow.service.process is not None
        slow.service.process.wait()
        with contextlib.redirect_stderr(self.told):
            slow.look()
            slow.look()
        self.assertIn("again in 600 s", self.told.getvalue())
        thread = self.watch_these([slow, Watched(other, 0.01)])
        assert other.process is not None
        other.process.kill()
        self.until(lambda: other.started == 2)
        self.stop.set()
        thread.join()

    def test_deaths_far_apart_do_not_add_up(self) -> None:
        """A process that is killed twice a minute is not put off for a minute each time."""
        clock = mock.patch("launch.supervise.time")
        with clock as time_, contextlib.redirect_stderr(self.told):
            time_.monotonic.return_value = 0.0
            dying = mock.Mock(name="dying")
            dying.process.poll.return_value = -9
            watched = Watched(dying, 1.0)
            for death in range(1, 8):
                time_.monotonic.return_value = 30.0 * death
                watched.look()
                time_.monotonic.return_value += 1.0
                watched.look()
                self.assertEqual(dying.begin.call_count, death)


class Repository(unittest.TestCase):
    """What must never be committed."""

    def files(self) -> list[Path]:
        listed = subprocess.run(
            ["git", "ls-files"], cwd=common.ROOT, capture_output=True, text=True, check=True
        )
        return [common.ROOT / name for name in listed.stdout.splitlines()]

    @unittest.skipUnless((common.ROOT / ".git").exists(), "not a checkout")
    def test_locks_name_no_host(self) -> None:
        for file in self.files():
            if "lock" in file.name or file.parent.name == "requirements":
                text = file.read_text()
                self.assertNotIn('"resolved"', text, file)
                self.assertNotIn("index-url", text, file)

    def test_locked_packages_have_hashes(self) -> None:
        for lock in (common.ROOT / "requirements").glob("*.txt"):
            names = [
                n for n in lock.read_text().splitlines() if "==" in n and not n.startswith("#")
            ]
            self.assertTrue(names)
            self.assertTrue(all(n.endswith("\\") for n in names), lock)

    def test_the_executable_can_be_executed(self) -> None:
        for name in ("nubilis", ".ci/run"):
            self.assertTrue(os.access(common.ROOT / name, os.X_OK))
