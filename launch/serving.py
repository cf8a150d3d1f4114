"""The verbs demo, serve and worker: everything started in its order, and kept up."""

import argparse
import os
import shutil
from collections.abc import Mapping
from pathlib import Path

from launch import build
from launch.common import DATA, ROOT, LaunchError
from launch.database import Database, free_port, port_is_free
from launch.router import Router, nginx_ready
from launch.services import MANAGE, Broker, WebServer, Worker
from launch.supervise import Service, Stop, Watched, on_stop_signals, supervise

ENOUGH_DISK = 300 * 2**20
MOST = 64  # of processes of one kind
REFUSED = 3  # what a command ends with that will not, for a reason that it has said


def serving_arguments(parser: argparse.ArgumentParser, *, demo: bool) -> None:
    parser.add_argument("--port", type=int, default=8642)
    parser.add_argument("--database-port", type=int, default=33642)
    parser.set_defaults(verb=_demo if demo else _serve)
    if not demo:
        parser.add_argument("--broker-port", type=int, default=33643)
        parser.add_argument("--workers", type=_count, default=0, help="processes for long work")
        parser.add_argument("--processes", type=_count, default=1, help="web processes")


def worker_arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--database-port", type=int, default=33642)
    parser.add_argument("--broker-port", type=int, default=33643)
    parser.add_argument("--workers", type=_count, default=1, help="processes on this machine")
    parser.set_defaults(verb=_worker)


def _count(text: str) -> int:
    if not text.isdigit() or int(text) > MOST:
        raise argparse.ArgumentTypeError(f"{text!r} is not within 0..{MOST}")
    return int(text)


def need_disk() -> None:
    DATA.mkdir(parents=True, exist_ok=True)
    if min(shutil.disk_usage(place).free for place in (ROOT, DATA)) < ENOUGH_DISK:
        raise LaunchError("the disk is nearly full: 300 MB must be free to start")


def _demo(options: argparse.Namespace) -> int:
    options.workers, options.processes, options.broker_port = 0, 1, 0
    return _start(options, demo=True)


def _serve(options: argparse.Namespace) -> int:
    return _start(options, demo=False)


def _start(options: argparse.Namespace, *, demo: bool) -> int:
    if not port_is_free(options.port):
        raise LaunchError(f"port {options.port} is busy; choose another with --port")
    need_disk()
    # Several web processes leave long work to workers, or each would take the others' for lost.
    queued = options.workers > 0 or options.processes > 1
    build.everything_ready(queued=queued)
    if options.processes > 1:
        nginx_ready()
    on_stop_signals(_interrupt)
    started: list[Service] = []
    try:
        # The demo is nobody's data, and everybody's: it never lies where people's does.
        home = DATA / "demo" if demo else DATA
        home.mkdir(parents=True, exist_ok=True)
        env = _stores(options, started, home, queued=queued)
        env["NUBILIS_DEMO"] = "1" if demo else "0"
        _manage(["migrate", "--verbosity", "0"], env)
        _manage(["load_demo"] if demo else ["first_account"], env)
        told_to_stop = Stop()
        on_stop_signals(told_to_stop.set)
        for service in _serving(options, env):
            started.append(service)
            service.start()
        supervise([Watched(service) for service in started], told_to_stop)
        return 0
    finally:
        for service in reversed(started):
            service.stop()


def _stores(
    options: argparse.Namespace, started: list[Service], home: Path, *, queued: bool
) -> dict[str, str]:
    """Database and broker, unless the environment names others; and what reaches them."""
    database = Database("mariadb", options.database_port, home=home)
    env = database.environment()
    if "NUBILIS_DATABASE_HOST" not in os.environ:
        started.append(database)
        database.start()
    if queued and "NUBILIS_BROKER" not in os.environ:
        broker = Broker(options.broker_port)
        started.append(broker)
        broker.start()
        env["NUBILIS_BROKER"] = broker.url
    return env


def _serving(options: argparse.Namespace, env: dict[str, str]) -> list[Service]:
    workers = options.workers or (1 if options.processes > 1 else 0)
    services: list[Service] = [Worker(i + 1, env, workers) for i in range(workers)]
    if options.processes <= 1:
        return [*services, WebServer(options.port, env)]
    ports = [free_port() for _ in range(options.processes)]
    told = env | {"NUBILIS_PUBLIC_PORT": str(options.port)}
    for i, port in enumerate(ports):
        # Each tells its own figures, on ports one after the other.
        own = told | {"NUBILIS_METRICS_PORT": str(first + i)} if (first := _figures(env)) else told
        services.append(WebServer(port, own, f"web server {i + 1}"))
    return [*services, Router(options.port, ports)]


def _figures(env: Mapping[str, str]) -> int:
    return int(env.get("NUBILIS_METRICS_PORT", "0"))


def _worker(options: argparse.Namespace) -> int:
    """Join a database, a broker and a store: this machine's, or those that the environment names."""
    build.everything_ready(queued=True)
    env = Database("mariadb", options.database_port).environment()
    env.setdefault("NUBILIS_BROKER", Broker(options.broker_port).url)
    told_to_stop = Stop()
    on_stop_signals(told_to_stop.set)
    base = os.getpid() * MOST  # names that no other worker has
    count = max(options.workers, 1)
    workers = [Worker(base + i, env, count) for i in range(count)]
    for worker in workers:
        worker.start()
    supervise([Watched(worker) for worker in workers], told_to_stop)
    return 0


def keeping_arguments(parser: argparse.ArgumentParser, verb: str) -> None:
    """backup, restore and doctor: beside what serves, or by themselves."""
    parser.add_argument("--database-port", type=int, default=33642)
    if verb == "doctor":
        parser.add_argument("--repair", action="store_true", help="put right what can be")
        parser.add_argument("--deep", action="store_true", help="read every file")
    else:
        parser.add_argument("file", metavar="FILE", type=os.path.abspath)
    parser.set_defaults(verb=_keep, kept_by=verb)


def _keep(options: argparse.Namespace) -> int:
    build.everything_ready()
    database = Database("mariadb", options.database_port)
    running = "NUBILIS_DATABASE_HOST" in os.environ or not port_is_free(options.database_port)
    words = [options.kept_by]
    words += [f"--{n}" for n in ("repair", "deep") if getattr(options, n, False)]
    words += [options.file] if "file" in options else []
    try:
        if not running:
            database.start()
        env = database.environment()
        if not running or options.kept_by == "restore":
            _manage(["migrate", "--verbosity", "0"], env)
        return build.run_in_venv([MANAGE, *words], env)
    finally:
        if not running:
            database.stop()


def _interrupt() -> None:
    raise KeyboardInterrupt


def _manage(arguments: list[str], env: dict[str, str]) -> None:
    if code := build.run_in_venv([MANAGE, *arguments], env):
        if code == REFUSED:  # and has said why, in its line
            raise SystemExit(2)
        raise LaunchError(f"{arguments[0]} failed, see above")
