"""nginx before several web processes: one photo is always one process's, so that it is decoded once."""

import os
import shutil
import signal
import subprocess
import time
from collections.abc import Mapping, Sequence
from pathlib import Path

from launch.common import DATA, VAR, LaunchError, run, say
from launch.database import port_is_free
from launch.services import Started

WEB_PATIENCE = 120.0  # seconds for the web processes to listen
LARGEST_BODY = "1300m"  # a little more than the largest photo
_UNPACKED = VAR / "nginx-program"

_SERVER = "        server 127.0.0.1:{port} max_fails=1 fail_timeout=2s;"
_SETTINGS = """\
{user}daemon off;
pid {folder}/nginx.pid;
error_log {log} warn;
worker_processes 1;
events {{ worker_connections 1024; }}
http {{
    access_log off;
    server_tokens off;
    client_max_body_size {largest};
    client_header_timeout 20s;
    client_body_timeout 60s;
    send_timeout 120s;
    client_body_temp_path {folder}/body;
    proxy_temp_path {folder}/proxy;
    fastcgi_temp_path {folder}/fastcgi;
    uwsgi_temp_path {folder}/uwsgi;
    scgi_temp_path {folder}/scgi;
    # What belongs to a photo goes where the photo is; the rest goes by who asks.
    map $http_cookie $session {{
        "~(^|; *)(__Host-)?sessionid=(?<key>[^; ]+)" $key;
        default $remote_addr;
    }}
    map $uri $route {{
        ~^/api/photos/(?<photo>[0-9]+) photo-$photo;
        default $session;
    }}
    upstream web {{
        hash $route consistent;
{servers}
        keepalive 16;
    }}
    server {{
        listen {bind}:{port};
{only}        location / {{
            proxy_pass http://web;
            proxy_http_version 1.1;
            proxy_set_header Connection "";
            proxy_set_header Host $http_host;
            proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for;
            proxy_set_header X-Forwarded-Proto {scheme};
            proxy_read_timeout 900s;
            proxy_buffering off;
            # Another process can do all that one can, if more slowly the first time.
            # What was sent and changes something is never sent twice.
            proxy_next_upstream error timeout;
            proxy_connect_timeout 5s;
        }}
    }}
}}
"""


class Router(Started):
    """Listens where people come; hands on to web processes on ports of their own."""

    name = "router"
    begins_anew = signal.SIGUSR1

    def __init__(
        self,
        port: int,
        ports: Sequence[int],
        folder: Path = DATA / "nginx",
        env: Mapping[str, str] = os.environ,
    ) -> None:
        """env: whether front servers of somebody's stand before it (docs/operating.md)."""
        self.port, self.ports, self.folder, self.env = port, list(ports), folder, env
        self.log = DATA / "log" / "nginx.log"

    def start(self) -> None:
        until = time.monotonic() + WEB_PATIENCE
        while any(map(port_is_free, self.ports)) and time.monotonic() < until:
            time.sleep(0.05)
        self.begin()
        bind = self.env.get("NUBILIS_BIND", "127.0.0.1")
        print(f"Nubilis is ready: http://{bind}:{self.port}/", flush=True)

    def begin(self) -> None:
        if not port_is_free(self.port):
            raise LaunchError(f"port {self.port} is busy; choose another with --port")
        program = nginx_program()
        if program is None:
            raise LaunchError("no nginx here; please run: apt install nginx-light")
        self.folder.mkdir(parents=True, exist_ok=True)
        self.folder.chmod(0o700)
        self.log.parent.mkdir(parents=True, exist_ok=True)
        settings = self.folder / "nginx.conf"
        settings.write_text(self._settings())
        command = [program, "-p", str(self.folder), "-c", str(settings), "-e", str(self.log)]
        self.run(command, dict(os.environ))

    def _settings(self) -> str:
        servers = "\n".join(_SERVER.format(port=port) for port in self.ports)
        # Its own children keep the rights of who started it: the folder is that person's alone.
        user = "user root;\n" if os.geteuid() == 0 else ""
        bind = self.env.get("NUBILIS_BIND", "127.0.0.1")
        behind = int(self.env.get("NUBILIS_HOPS", self.env.get("NUBILIS_TLS", "0")))
        near = self.env.get("NUBILIS_PROXY", "127.0.0.1")
        return _SETTINGS.format(
            user=user,
            bind=bind,
            # What a front server says is believed, so nobody else may say it.
            only=f"        allow {near};\n        deny all;\n" if behind else "",
            scheme="$http_x_forwarded_proto" if behind else "$scheme",
            folder=self.folder,
            log=self.log,
            largest=LARGEST_BODY,
            port=self.port,
            servers=servers,
        )


def nginx_program() -> str | None:
    """The machine's own, else the one that was unpacked for us."""
    own = shutil.which("nginx", path=os.environ.get("PATH", "") + ":/usr/sbin:/usr/local/sbin")
    ours = _UNPACKED / "usr/sbin/nginx"
    return own or (str(ours) if ours.is_file() else None)


def nginx_ready() -> None:
    """Unpack Debian's package under var/: installed, it would start a server of its own on port 80."""
    if nginx_program() is not None:
        return
    say("Fetching nginx")
    _UNPACKED.mkdir(parents=True, exist_ok=True)
    try:
        run(["apt-get", "-q", "download", "nginx"], "nginx", cwd=_UNPACKED)
        for package in _UNPACKED.glob("*.deb"):
            run(["dpkg-deb", "-x", str(package), str(_UNPACKED)], "nginx")
            package.unlink()
        program = _UNPACKED / "usr/sbin/nginx"
        subprocess.run([program, "-v"], capture_output=True, check=True)
    except (OSError, subprocess.CalledProcessError, LaunchError) as error:
        shutil.rmtree(_UNPACKED, ignore_errors=True)
        raise LaunchError(
            f"nginx could not be fetched; please run: apt install nginx-light ({error})"
        ) from error
