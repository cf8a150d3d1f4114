"""What serves, beside the database: web processes, workers, and a broker that wakes them."""

import os
import shutil
import signal
import subprocess
import time
from collections.abc import Mapping
from pathlib import Path

from launch.common import DATA, ROOT, VENV_PYTHON, LaunchError, end_with_parent
from launch.database import port_is_free, read_secrets, write_for_owner
from launch.supervise import end

MANAGE = str(ROOT / "server/manage.py")
WEB_PATIENCE = 15.0  # seconds for what is being answered
WORK_PATIENCE = 20.0  # seconds for a piece of work; another worker takes up what is ended
BROKER_PATIENCE = 60.0  # seconds to begin, on the slowest machine


class Started:
    """Something with a process of its own, in a session of its own: Ctrl-C comes through the launcher."""

    name = ""
    patience = WEB_PATIENCE
    process: subprocess.Popen[bytes] | None = None
    log: Path | None = None
    begins_anew: signal.Signals | None = None

    def begin(self) -> None:
        raise NotImplementedError

    def start(self) -> None:
        self.begin()

    def stop(self) -> None:
        end(self.process, self.name, self.patience)

    def logging(self, env: Mapping[str, str]) -> dict[str, str]:
        """A log of its own, since nobody else may rotate it."""
        folder = Path(env.get("NUBILIS_VAR", DATA)) / "log"
        folder.mkdir(parents=True, exist_ok=True)
        return {"NUBILIS_LOG": str(folder / f"{self.name.replace(' ', '-')}.log")}

    def run(self, command: list[str], env: dict[str, str], program: str | None = None) -> None:
        self.process = subprocess.Popen(
            command,
            executable=program,
            env=env,
            start_new_session=True,
            preexec_fn=end_with_parent,  # noqa: PLW1509 (no threads here)
        )


class WebServer(Started):
    """A web process."""

    def __init__(self, port: int, env: dict[str, str], name: str = "web server") -> None:
        self.name, self.port, self.env = name, port, env

    def begin(self) -> None:
        words = ["web", "--port", str(self.port)]
        self.run([str(VENV_PYTHON), MANAGE, *words], self.env | self.logging(self.env))


class Worker(Started):
    """A process that does long work."""

    patience = WORK_PATIENCE

    def __init__(self, number: int, env: dict[str, str], of: int = 1) -> None:
        """of: how many there are on this machine. One alone does two pieces of work at once; several share
        the cores out among themselves, one piece each (measured: bench/RESULTS.md)."""
        self.name, self.number, self.of = f"worker {number}", number, of
        cores = max((os.cpu_count() or 1) // of, 1)
        self.env = {"NUBILIS_CORES": str(cores)} | env if of > 1 else env

    def begin(self) -> None:
        at_once = "2" if self.of == 1 else "1"
        words = ["worker", "--number", str(self.number), "--at-once", at_once]
        self.run([str(VENV_PYTHON), MANAGE, *words], self.env | self.logging(self.env))


class Broker(Started):
    """A Redis server of our own: data under var/, loopback only, with a password."""

    name = "broker"
    patience = 30.0

    def __init__(self, port: int, folder: Path = DATA / "redis") -> None:
        self.port, self.folder = port, folder
        self.log = DATA / "log" / "redis.log"

    @property
    def url(self) -> str:
        return f"redis://:{read_secrets()['broker']}@127.0.0.1:{self.port}/0"

    def start(self) -> None:
        self.begin()
        self._wait()

    def begin(self) -> None:
        if not port_is_free(self.port):
            raise LaunchError(
                f"port {self.port} (broker) is busy; choose another with --broker-port"
            )
        program = redis_program()
        if program is None:
            raise LaunchError("no Redis server here; please run: apt install redis-tools")
        self.folder.mkdir(parents=True, exist_ok=True)
        self.folder.chmod(0o700)
        self.log.parent.mkdir(parents=True, exist_ok=True)
        settings = self.folder / "redis.conf"
        write_for_owner(
            settings,
            f"bind 127.0.0.1\nport {self.port}\ndir {self.folder}\nlogfile {self.log}\n"
            f'requirepass {read_secrets()["broker"]}\nappendonly yes\nsave ""\n'
            "maxmemory 64mb\nmaxmemory-policy noeviction\n",
        )
        # One program is server and tool, as it is called.
        self.run(["redis-server", str(settings)], dict(os.environ), program)

    def _wait(self) -> None:
        until = time.monotonic() + BROKER_PATIENCE
        while port_is_free(self.port):
            ended = self.process is None or self.process.poll() is not None
            if ended or time.monotonic() > until:
                self.stop()
                raise LaunchError(f"the broker did not start: {self.log}")
            time.sleep(0.05)


def redis_program() -> str | None:
    """Debian keeps the server's program among the tools, whose package starts no service of its own."""
    return shutil.which("redis-server") or shutil.which("redis-check-rdb")
