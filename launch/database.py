"""A MariaDB server of our own: data under var/, loopback only, a port of its own."""

import json
import os
import secrets
import signal
import socket
import subprocess
import time
from pathlib import Path

from launch.common import VAR, LaunchError, end_with_parent, product_environment, run, say
from launch.machine import server_program


def port_is_free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def read_secrets() -> dict[str, str]:
    """The database password and Django's key, made once per clone."""
    file = VAR / "secrets.json"
    if not file.is_file():
        VAR.mkdir(parents=True, exist_ok=True)
        made = {"database": secrets.token_hex(16), "django": secrets.token_hex(32)}
        descriptor = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        with os.fdopen(descriptor, "w") as out:
            json.dump(made, out)
    return dict(json.loads(file.read_text()))


class Database:
    """One server process, started and stopped by us."""

    def __init__(self, name: str, port: int) -> None:
        self.folder = VAR / name
        self.port = port
        self.process: subprocess.Popen[bytes] | None = None
        self.log = VAR / "log" / f"{name}.log"

    def start(self) -> None:
        """Start the server, making its data directory the first time."""
        if not port_is_free(self.port):
            raise LaunchError(
                f"port {self.port} (database) is busy; choose another with --database-port"
            )
        program = server_program()
        if program is None:
            raise LaunchError("no MariaDB server here; please run: apt install mariadb-server-core")
        self._make_data_directory()
        self.log.parent.mkdir(parents=True, exist_ok=True)
        with self.log.open("ab") as log:
            # A session of its own: Ctrl-C must reach the web server first, the database last.
            self.process = subprocess.Popen(
                [program, *self._arguments()],
                stdout=log,
                stderr=log,
                start_new_session=True,
                preexec_fn=end_with_parent,  # noqa: PLW1509 (no threads here)
            )
        self._wait()

    def stop(self) -> None:
        if self.process is None or self.process.poll() is not None:
            return
        self.process.send_signal(signal.SIGTERM)
        try:
            self.process.wait(30)
        except subprocess.TimeoutExpired:
            self.process.kill()

    def environment(self) -> dict[str, str]:
        """What Django needs to reach this server."""
        return product_environment() | {
            "NUBILIS_DATABASE_PORT": str(self.port),
            "NUBILIS_DATABASE_PASSWORD": read_secrets()["database"],
            "NUBILIS_SECRET_KEY": read_secrets()["django"],
        }

    def _arguments(self) -> list[str]:
        arguments = [
            "--no-defaults",
            f"--datadir={self.folder}",
            f"--socket={self.folder / 'server.sock'}",
            f"--pid-file={self.folder / 'server.pid'}",
            f"--port={self.port}",
            "--bind-address=127.0.0.1",
            f"--init-file={self._accounts_file()}",
            "--character-set-server=utf8mb4",
            "--collation-server=utf8mb4_unicode_ci",
            "--innodb-buffer-pool-size=64M",
            "--max-allowed-packet=64M",
            "--skip-name-resolve",
        ]
        if len(str(self.folder / "server.sock")) > 100:  # a Unix socket's path has a limit of 107
            arguments[2] = f"--socket=/tmp/nubilis-{os.getpid()}-{self.port}.sock"
        return arguments + (["--user=root"] if os.geteuid() == 0 else [])

    def _accounts_file(self) -> Path:
        password = read_secrets()["database"]
        file = VAR / "database-accounts.sql"
        file.touch(mode=0o600)
        file.write_text(
            "CREATE DATABASE IF NOT EXISTS nubilis CHARACTER SET utf8mb4;\n"
            f"CREATE OR REPLACE USER 'nubilis'@'127.0.0.1' IDENTIFIED BY '{password}';\n"
            "GRANT ALL ON nubilis.* TO 'nubilis'@'127.0.0.1';\n"
            "GRANT ALL ON test_nubilis.* TO 'nubilis'@'127.0.0.1';\n"
        )
        return file

    def _make_data_directory(self) -> None:
        if (self.folder / "mysql").is_dir():
            return
        say("Making the database")
        user = ["--user=root"] if os.geteuid() == 0 else []
        command = ["mariadb-install-db", "--no-defaults", f"--datadir={self.folder}"]
        run([*command, "--auth-root-authentication-method=normal", *user], "make database")

    def _wait(self) -> None:
        deadline = time.monotonic() + 60
        while time.monotonic() < deadline:
            if self.process is not None and self.process.poll() is not None:
                break
            try:
                with socket.create_connection(("127.0.0.1", self.port), timeout=1) as link:
                    if link.recv(1):
                        return
            except OSError:
                time.sleep(0.1)
        self.stop()
        lines = self.log.read_text(errors="replace").splitlines()
        errors = [line for line in lines if "[ERROR]" in line]
        raise LaunchError("the database did not start: " + (errors[0] if errors else str(self.log)))
