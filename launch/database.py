"""A MariaDB server of our own: data under var/, loopback only, a port of its own.

Nobody enters without a password. They are made once, kept where only their owner reads them, and laid down
anew at every start, before the server lets anybody in: a data folder of an earlier version, whose root had
none, is closed by that as well.
"""

import json
import os
import secrets
import signal
import socket
import subprocess
import tempfile
import time
from pathlib import Path

from launch.common import DATA, LaunchError, end_with_parent, product_environment, run, say
from launch.machine import server_program
from launch.supervise import end


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
    """The database's passwords and Django's key, each made when it is first needed."""
    file = DATA / "secrets.json"
    known = _known_secrets(file)
    wanted = {"database": 16, "database_root": 16, "django": 32, "broker": 16}
    missing = {name: secrets.token_hex(size) for name, size in wanted.items() if name not in known}
    if missing:
        write_for_owner(file, json.dumps(known | missing))
    return known | missing


def _known_secrets(file: Path) -> dict[str, str]:
    """What the file says; a damaged one is made anew, which ends everybody's sessions and nothing else."""
    if not file.is_file():
        return {}
    try:
        known = json.loads(file.read_text())
        if isinstance(known, dict) and all(isinstance(v, str) and v for v in known.values()):
            return known
    except ValueError:
        pass
    say(f"{file.name} is damaged: new passwords are made, and everybody signs in again")
    return {}


def write_for_owner(file: Path, text: str) -> None:
    """Nobody else ever sees it, not even while it is written."""
    file.parent.mkdir(parents=True, exist_ok=True)
    part = file.with_name(file.name + ".part")
    part.unlink(missing_ok=True)
    descriptor = os.open(part, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    with os.fdopen(descriptor, "w") as out:
        out.write(text)
    part.replace(file)


PATIENCE = 60.0  # seconds to write everything down


class Database:
    """One server process, started and stopped by us."""

    name = "database"
    begins_anew = signal.SIGHUP

    def __init__(
        self,
        name: str,
        port: int,
        schemas: str = "nubilis",
        *,
        durable: bool = True,
        home: Path = DATA,
    ) -> None:
        """schemas: what the product's user has rights on, and nothing else; a LIKE pattern. durable: each
        commit is on the disk before it is answered. home: where it and the files of whom it serves lie."""
        self.durable, self.home = durable, home
        self.folder = home / name
        self.port = port
        self.schemas = schemas
        self.process: subprocess.Popen[bytes] | None = None
        self.log = home / "log" / f"{name}.log"
        self._before = 0  # bytes of it from earlier starts

    def start(self) -> None:
        """Raises LaunchError."""
        self.begin()
        self._wait()

    def begin(self) -> None:
        """Start the server, making its data directory the first time."""
        if not port_is_free(self.port):
            raise LaunchError(
                f"port {self.port} (database) is busy; choose another with --database-port"
            )
        program = server_program()
        if program is None:
            raise LaunchError("no MariaDB server here; please run: apt install mariadb-server-core")
        self._make_data_directory()
        self.folder.chmod(0o700)
        self._closed_folder().mkdir(mode=0o500, exist_ok=True)
        self.log.parent.mkdir(parents=True, exist_ok=True)
        self._before = self.log.stat().st_size if self.log.is_file() else 0
        with self.log.open("ab") as log:
            # A session of its own: Ctrl-C must reach the web server first, the database last.
            self.process = subprocess.Popen(
                [program, *self._arguments()],
                stdout=log,
                stderr=log,
                start_new_session=True,
                preexec_fn=end_with_parent,  # noqa: PLW1509 (no threads here)
            )

    def stop(self) -> None:
        end(self.process, self.name, PATIENCE)

    def environment(self) -> dict[str, str]:
        """What Django needs to reach this server."""
        told = {
            "NUBILIS_DATABASE_PORT": str(self.port),
            "NUBILIS_DATABASE_PASSWORD": read_secrets()["database"],
            "NUBILIS_SECRET_KEY": read_secrets()["django"],
        }
        own = product_environment() | {"NUBILIS_VAR": str(self.home)}
        # Who names another server in the environment names its port and password there too.
        return told | own if "NUBILIS_DATABASE_HOST" in own else own | told

    def _arguments(self) -> list[str]:
        arguments = [
            "--no-defaults",
            f"--datadir={self.folder}",
            f"--socket={self._socket()}",
            f"--pid-file={self.folder / 'server.pid'}",
            f"--port={self.port}",
            f"--log-error={self.log}",
            "--bind-address=127.0.0.1",
            f"--init-file={self._accounts_file()}",
            "--character-set-server=utf8mb4",
            "--collation-server=utf8mb4_unicode_ci",
            "--innodb-buffer-pool-size=64M",
            "--max-connections=400",
            "--max-allowed-packet=64M",
            "--skip-name-resolve",
            # Statements reach no files but those of a folder that is empty and stays so.
            f"--secure-file-priv={self._closed_folder()}",
            "--local-infile=0",
        ]
        if not self.durable:
            arguments += ["--innodb-flush-log-at-trx-commit=0", "--skip-innodb-doublewrite"]
        return arguments + (["--user=root"] if os.geteuid() == 0 else [])

    def _closed_folder(self) -> Path:
        return self.folder / "no-files"

    def _socket(self) -> Path:
        """In the data folder, which is its owner's alone; a path has a limit of 107 characters."""
        path = self.folder / "server.sock"
        if len(str(path)) <= 100:
            return path
        return Path(tempfile.mkdtemp(prefix="nubilis-")) / "server.sock"

    def _accounts_file(self) -> Path:
        known = read_secrets()
        file = self.folder / "accounts.sql"
        only_root = "User = 'root' AND Host = 'localhost' OR User = 'mariadb.sys'"
        write_for_owner(
            file,
            "CREATE DATABASE IF NOT EXISTS nubilis CHARACTER SET utf8mb4;\n"
            f"DELETE FROM mysql.global_priv WHERE NOT ({only_root});\n"
            "DELETE FROM mysql.db;\n"
            "DROP DATABASE IF EXISTS test;\n"
            "FLUSH PRIVILEGES;\n"
            f"ALTER USER 'root'@'localhost' IDENTIFIED BY '{known['database_root']}';\n"
            f"CREATE USER 'nubilis'@'127.0.0.1' IDENTIFIED BY '{known['database']}';\n"
            f"GRANT ALL ON `{self.schemas}`.* TO 'nubilis'@'127.0.0.1';\n",
        )
        return file

    def _make_data_directory(self) -> None:
        if (self.folder / "mysql").is_dir():
            return
        say("Making the database")
        self.folder.parent.mkdir(parents=True, exist_ok=True)
        user = ["--user=root"] if os.geteuid() == 0 else []
        command = ["mariadb-install-db", "--no-defaults", f"--datadir={self.folder}"]
        command += ["--auth-root-authentication-method=normal", "--skip-test-db"]
        run([*command, *user], "make database")

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
        said = self.log.read_bytes()[self._before :].decode(errors="replace")
        errors = [line for line in said.splitlines() if "[ERROR]" in line]
        raise LaunchError("the database did not start: " + (errors[0] if errors else str(self.log)))
