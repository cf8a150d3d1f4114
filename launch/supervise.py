"""Keeping what serves alive until somebody says stop, and ending it cleanly then."""

import signal
import subprocess
import time
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Protocol

from launch.common import LaunchError, say
from launch.logs import turned_over

LOOK_EVERY = 0.2  # seconds
FIRST_DELAY, LONGEST_DELAY = 1.0, 8.0  # seconds before what ended by itself is started again
CALM = 10.0  # seconds of running after which the delay is the first again


class Service(Protocol):
    """Something with a process; process is None before it was started.

    start: begins it and waits until it can be used; begin: without waiting, so that others are not left
    alone. log: what its program writes and does not turn over itself; begins_anew: what makes it open
    another, where it does not by itself."""

    name: str
    process: subprocess.Popen[bytes] | None
    log: Path | None
    begins_anew: signal.Signals | None

    def start(self) -> None: ...

    def begin(self) -> None: ...

    def stop(self) -> None: ...


class Stop:
    """Whether somebody has said stop. Unlike threading.Event it takes no lock, so that a signal may set it
    while the same thread waits for it."""

    def __init__(self) -> None:
        self._said = False

    def set(self) -> None:
        self._said = True

    def is_set(self) -> bool:
        return self._said

    def wait(self, seconds: float) -> bool:
        """Until it is said, at most so long; whether it is."""
        until = time.monotonic() + seconds
        while not self._said and (left := until - time.monotonic()) > 0.0:
            time.sleep(min(left, LOOK_EVERY))
        return self._said


class Watched:
    """A service, and when it is started again."""

    def __init__(self, service: Service, first_delay: float = FIRST_DELAY) -> None:
        self.service, self._first = service, first_delay
        self._delay, self._since = first_delay, time.monotonic()
        self._due: float | None = None  # while it waits to be started again

    def look(self) -> None:
        """Say that it ended by itself; start it again when it is time. Never waits."""
        if self._due is None and (code := self._ended()) is not None:
            self._put_off(f"The {self.service.name} ended by itself ({_how(code)})")
        elif self._due is not None and time.monotonic() >= self._due:
            self._begin_again()

    def _ended(self) -> int | None:
        """Its exit code."""
        process = self.service.process
        return 1 if process is None else process.poll()

    def _begin_again(self) -> None:
        self._due, self._since = None, time.monotonic()
        try:
            self.service.begin()
        except (LaunchError, OSError) as error:  # a port that is still taken, a disk that is full
            self._put_off(f"The {self.service.name} does not start: {error}")

    def _put_off(self, why: str) -> None:
        """Longer each time, unless it ran well for a while."""
        if time.monotonic() - self._since > CALM:
            self._delay = self._first
        say(f"{why}; again in {self._delay:.0f} s")
        self._due = time.monotonic() + self._delay
        self._delay = min(2.0 * self._delay, LONGEST_DELAY)

    def turn_log_over(self) -> None:
        service = self.service
        if service.log is None or service.process is None or not turned_over(service.log):
            return
        if service.begins_anew is not None:
            service.process.send_signal(service.begins_anew)


def supervise(watched: Sequence[Watched], told_to_stop: Stop) -> None:
    """Until told to stop; then end them, the last first."""
    try:
        while not told_to_stop.wait(LOOK_EVERY):
            for one in watched:
                one.turn_log_over()
                one.look()
        say("Stopping")
    finally:
        for one in reversed(watched):
            one.service.stop()


def _how(code: int) -> str:
    return f"signal {-code}" if code < 0 else f"exit code {code}"


def end(process: subprocess.Popen[bytes] | None, name: str, patience: float) -> None:
    """Ask a process to end; one that is too busy to hear it is ended anyway."""
    if process is None or process.poll() is not None:
        return
    process.send_signal(signal.SIGTERM)
    try:
        process.wait(patience)
    except subprocess.TimeoutExpired:
        say(f"The {name} is busy and does not end; ending it anyway")
        process.kill()
        process.wait()


def on_stop_signals(act: Callable[[], None]) -> None:
    """What Ctrl-C, a stop by the system and a closed terminal do from now on."""
    for number in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, lambda *_: act())
