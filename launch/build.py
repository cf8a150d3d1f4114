"""Set-up, step by step; every step is skipped when its inputs have not changed."""

import os
import re
import shutil
import subprocess
import sys
import sysconfig
import tempfile
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path

from launch import machine
from launch.common import (
    ROOT,
    VAR,
    VENV_PYTHON,
    LaunchError,
    done_before,
    end_with_parent,
    fingerprint,
    product_environment,
    remember,
    run,
    step,
)
from launch.networks import networks_ready

WEB = ROOT / "web"
LOCKS = ROOT / "requirements"


def python_ready() -> None:
    """The virtual environment with the locked packages, and the compiled kernels."""
    _packages_ready()
    _compiled()


def _packages_ready() -> None:
    if sys.version_info < (3, 11):  # noqa: UP036 (run before anything is installed)
        raise LaunchError("needs Python 3.11 or newer, this is " + sys.version.split()[0])
    machine.install_packages(
        machine.missing_packages(
            for_python=not VENV_PYTHON.exists(), for_server=False, for_test=False
        )
    )
    _virtual_environment()
    python_packages("base")


def _compiled() -> None:
    networks_ready()
    _warm_kernels()


def everything_ready(*, for_test: bool = False, queued: bool = False) -> None:
    """All that the web application needs. queued: also a broker, for work on workers."""
    missing = machine.missing_packages(
        for_python=not VENV_PYTHON.exists(), for_server=True, for_test=for_test
    )
    if queued or for_test:
        missing += machine.missing_for_queue()
    machine.install_packages(missing)
    # What does not need each other goes on at once: fetching waits for the network, compiling for the cores.
    with ThreadPoolExecutor() as pool:
        python = pool.submit(_packages_ready)
        lanes = [pool.submit(_after, python, _compiled), pool.submit(_front_end, python)]
        if for_test:
            lanes.append(pool.submit(_after, python, lambda: python_packages("test")))
        for lane in [python, *lanes]:
            lane.result()


def _after(earlier: Future[None], work: Callable[[], None]) -> None:
    """Nothing, when the earlier step failed: that is told by itself."""
    if earlier.exception() is None:
        work()


def _virtual_environment() -> None:
    # Headers are looked for beside the Python that runs this, which is the one the venv copies.
    # Not the build date, which changes when the first run's packages bring a rebuilt Python along.
    mark = sys.version.split()[0] + str(sysconfig.get_path("include"))
    if VENV_PYTHON.exists() and done_before("venv", mark):
        return
    with step("Making the Python environment", seconds=8):
        run([sys.executable, "-m", "venv", "--clear", str(ROOT / ".venv")], "python environment")
    for made in ("base", "test", "node", "kernels"):
        (VAR / "stamps" / made).unlink(missing_ok=True)
    remember("venv", mark)


def python_packages(name: str) -> None:
    """Those of one lock."""
    lock = LOCKS / f"{name}.txt"
    mark = fingerprint([lock])
    if done_before(name, mark):
        return
    with step(f"Installing Python packages ({name})", seconds=25):
        _install(name, lock)
    remember(name, mark)


def _install(name: str, lock: Path) -> None:
    """By two pips at once, half of the packages each: what they depend on is in the lock, and not looked for.
    Bytecode is made when it is first needed (PYTHONPYCACHEPREFIX)."""
    packages = re.split(r"^(?=\S)", lock.read_text(), flags=re.MULTILINE)
    pip = [str(VENV_PYTHON), "-m", "pip", "install", "--disable-pip-version-check", "-q"]
    with tempfile.TemporaryDirectory(dir=VAR) as folder, ThreadPoolExecutor(2) as pool:
        halves = []
        for i in range(2):
            half = Path(folder) / f"{name}-{i}.txt"
            half.write_text("".join(packages[i::2]))
            command = [*pip, "--no-compile", "--require-hashes", "--no-deps", "-r", str(half)]
            halves.append(pool.submit(run, command, f"python packages {name} {i}"))
        for installed in halves:
            installed.result()


def _warm_kernels() -> None:
    """Compile now, so that the first person does not wait for the compiler."""
    sources = [*(ROOT / "core/nubilis").rglob("*.py"), LOCKS / "base.txt"]
    mark = fingerprint(sources)
    if done_before("kernels", mark):
        return
    _forget_kernels_of_other_functions()
    with step("Compiling the kernels", seconds=40):
        run([str(VENV_PYTHON), "-m", "nubilis.precompile"], "kernels", env=product_environment())
    remember("kernels", mark)


def _forget_kernels_of_other_functions() -> None:
    """numba compiles again what changed in a file, but not what calls it from other files."""
    kernels = [p for p in (ROOT / "core/nubilis").rglob("*.py") if "@compiled" in p.read_text()]
    mark = fingerprint(kernels)
    if not done_before("functions of kernels", mark):
        shutil.rmtree(VAR / "kernels", ignore_errors=True)
        remember("functions of kernels", mark)


def node_environment() -> dict[str, str]:
    """An environment whose `node` and `npm` are new enough."""
    folder = machine.node_folder()
    if folder is None:
        python_packages("node")
        folder = machine.node_folder()
    if folder is None:
        raise LaunchError("no Node 20.19 or newer could be found or installed")
    env = dict(os.environ)
    env["PATH"] = f"{folder}{os.pathsep}{env.get('PATH', '')}"
    return env


def _front_end(python: Future[None]) -> None:
    """Packages, the API's types, and the built pages. python: its environment, which is being made."""
    if machine.node_folder() is None:
        _after(python, lambda: python_packages("node"))
    env = node_environment()
    packages = fingerprint([WEB / "package-lock.json", WEB / "package.json"])
    if not ((WEB / "node_modules").is_dir() and done_before("npm", packages)):
        with step("Installing front-end packages", seconds=15):
            run(["npm", "ci", "--no-audit", "--no-fund"], "front-end packages", cwd=WEB, env=env)
        remember("npm", packages)
    _after(python, lambda: _built(packages, env))


def _built(packages: str, env: dict[str, str]) -> None:
    _api_document_ready()
    mark = fingerprint(_front_end_sources(), packages)
    if (WEB / "dist/index.html").is_file() and done_before("front end", mark):
        return
    with step("Building the front end", seconds=20):
        run(["npm", "run", "build"], "front end", cwd=WEB, env=env)
    remember("front end", mark)


def _front_end_sources() -> list[Path]:
    """Those of the generated ones that no other one is made of."""
    web = [p for p in (WEB / "src").rglob("*") if p.is_file() and "generated" not in p.parts]
    made = (WEB / "src/generated").glob("openapi.json")
    return [
        *made,
        WEB / "src/generated/kinds.ts",
        *web,
        WEB / "index.html",
        ROOT / "NOTICES.md",
        *WEB.glob("*.ts"),
    ]


def _api_document_ready() -> None:
    """The server's OpenAPI document, from which the browser's types are generated. It is made of the server's
    schemas and of the core's models, wherever they stand."""
    sources = [*(ROOT / "server").rglob("*.py"), *(ROOT / "core/nubilis").rglob("*.py")]
    mark = fingerprint(p for p in sources if "tests" not in p.parts)
    out = WEB / "src/generated"
    if (out / "openapi.json").is_file() and done_before("api document", mark):
        return
    out.mkdir(parents=True, exist_ok=True)
    env = product_environment() | {"NUBILIS_NO_DATABASE": "1"}
    command = [str(VENV_PYTHON), str(ROOT / "server/manage.py"), "api_document", str(out)]
    run(command, "api document", env=env)
    remember("api document", mark)


def run_in_venv(arguments: list[str], env: dict[str, str] | None = None) -> int:
    """Run the product's Python in the foreground and return its exit code; it ends with the launcher."""
    command = [str(VENV_PYTHON), *arguments]
    return subprocess.run(
        command,
        cwd=ROOT,
        env=env or product_environment(),
        check=False,
        preexec_fn=end_with_parent,
    ).returncode
