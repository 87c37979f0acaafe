"""A private MariaDB: its own data folder, a unix socket and a loopback port."""

import getpass
import hashlib
import os
import secrets
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from .processes import started, stopped

HOST = "127.0.0.1"
USER = "thistlequartz"
DATABASE = "thistlequartz"
SQL_MODE = (
    "STRICT_ALL_TABLES,NO_ZERO_DATE,NO_ZERO_IN_DATE,ERROR_FOR_DIVISION_BY_ZERO,"
    "NO_ENGINE_SUBSTITUTION"
)

_LONGEST_SOCKET_PATH = 100
_READY_WITHIN = 60
_STOPPED_WITHIN = 4
_LOCKS_WAITED_FOR = 5
"""Seconds."""


class DatabaseTrouble(RuntimeError):
    """MariaDB could not be set up, started or stopped; the message says what to look at."""


def free_port() -> int:
    """A loopback port nobody listens on."""
    with socket.socket() as probe:
        probe.bind((HOST, 0))
        return int(probe.getsockname()[1])


class PrivateMariaDB:
    """One server of our own in `folder`. `durable=False` trades safety for speed, for tests."""

    def __init__(self, folder: Path, *, durable: bool = True) -> None:
        self.folder = folder
        self.data = folder / "data"
        self.log = folder / "mariadb.log"
        self.scratch = folder / "tmp"
        """Its own: on starting, MariaDB clears its folder of temporary tables of other copies."""
        self.durable = durable
        self.socket = self._socket_path()
        self.port = 0
        self.process: subprocess.Popen[bytes] | None = None

    def _socket_path(self) -> Path:
        beside = self.folder / "mariadb.sock"
        if len(str(beside)) <= _LONGEST_SOCKET_PATH:
            return beside
        name = hashlib.sha256(str(beside).encode()).hexdigest()[:16]
        return Path(tempfile.gettempdir()) / f"thistlequartz-{name}.sock"

    @property
    def password(self) -> str:
        """The password of the product's own account, made once and kept readable by us only."""
        kept = self.folder / "password"
        if not kept.exists():
            kept.touch(mode=0o600)
            kept.write_text(secrets.token_urlsafe(24))
        return kept.read_text()

    def environment(self) -> dict[str, str]:
        """What the server's settings need to reach this database."""
        return {
            "THISTLEQUARTZ_DB_SOCKET": str(self.socket),
            "THISTLEQUARTZ_DB_NAME": DATABASE,
            "THISTLEQUARTZ_DB_USER": USER,
            "THISTLEQUARTZ_DB_PASSWORD": self.password,
        }

    def start(self) -> None:
        """Set up the data folder where it is missing, start, and wait until it answers."""
        self.scratch.mkdir(parents=True, exist_ok=True)
        new = not (self.data / "mysql").is_dir()
        if new:
            self._install()
        self.port = free_port()
        with self.log.open("ab") as log:
            self.process = started(
                self._command(), when_we_go="TERM", env=os.environ, stdout=log, stderr=log
            )
        try:
            self._wait_until_ready()
            if new:
                self._create_account()
        except BaseException:
            self.stop()
            raise

    def _install(self) -> None:
        shutil.rmtree(self.data, ignore_errors=True)
        done = subprocess.run(
            [
                "mariadb-install-db",
                "--no-defaults",
                f"--user={getpass.getuser()}",
                f"--auth-root-socket-user={getpass.getuser()}",
                f"--datadir={self.data}",
                f"--tmpdir={self.scratch}",
                "--skip-test-db",
            ],
            capture_output=True,
            text=True,
            check=False,
        )
        if done.returncode:
            raise DatabaseTrouble(
                f"MariaDB could not set up its data folder {self.data}:\n{done.stderr[-800:]}"
            )

    def _command(self) -> list[str]:
        command = [
            shutil.which("mariadbd") or "/usr/sbin/mariadbd",
            "--no-defaults",
            f"--user={getpass.getuser()}",
            f"--datadir={self.data}",
            f"--tmpdir={self.scratch}",
            f"--socket={self.socket}",
            f"--port={self.port}",
            f"--bind-address={HOST}",
            f"--pid-file={self.folder / 'mariadb.pid'}",
            f"--sql-mode={SQL_MODE}",
            "--character-set-server=utf8mb4",
            "--collation-server=utf8mb4_bin",
            "--innodb-buffer-pool-size=64M",
            "--performance-schema=OFF",
            "--skip-log-bin",
            f"--innodb-lock-wait-timeout={_LOCKS_WAITED_FOR}",
        ]
        if not self.durable:
            command += ["--innodb-flush-log-at-trx-commit=0", "--innodb-doublewrite=OFF"]
        return command

    def _wait_until_ready(self) -> None:
        assert self.process is not None
        deadline = time.monotonic() + _READY_WITHIN
        while time.monotonic() < deadline:
            if self.process.poll() is not None:
                break
            if self._client("SELECT 1").returncode == 0:
                return
            time.sleep(0.05)
        raise DatabaseTrouble(f"MariaDB did not start. The reason is at the end of {self.log}.")

    def _client(self, statements: str) -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            ["mariadb", "--no-defaults", f"--socket={self.socket}", "-u", getpass.getuser()],
            input=statements,
            capture_output=True,
            text=True,
            check=False,
        )

    def _create_account(self) -> None:
        done = self._client(
            f"CREATE DATABASE IF NOT EXISTS {DATABASE} CHARACTER SET utf8mb4;"
            f"CREATE USER IF NOT EXISTS {USER}@localhost IDENTIFIED BY '{self.password}';"
            f"CREATE USER IF NOT EXISTS {USER}@'{HOST}' IDENTIFIED BY '{self.password}';"
            f"GRANT ALL ON `{DATABASE}%`.* TO {USER}@localhost;"
            f"GRANT ALL ON `test\\_%`.* TO {USER}@localhost;"
            f"GRANT ALL ON `{DATABASE}%`.* TO {USER}@'{HOST}';"
        )
        if done.returncode:
            raise DatabaseTrouble(f"The database account could not be made:\n{done.stderr}")

    def is_alive(self) -> bool:
        """Whether it still runs."""
        return self.process is not None and self.process.poll() is None

    def stop(self) -> None:
        """Shut down cleanly, by the id of the process we started."""
        if self.process is None or not self.is_alive():
            return
        stopped([self.process], within=_STOPPED_WITHIN)
        if self.process.returncode == -signal.SIGKILL:
            print(
                f"MariaDB took longer than {_STOPPED_WITHIN} s to stop and was ended; it repairs"
                " its files at the next start.",
                file=sys.stderr,
            )
        if self.socket.parent != self.folder:
            self.socket.unlink(missing_ok=True)

    def __enter__(self) -> "PrivateMariaDB":
        self.start()
        return self

    def __exit__(self, *_: object) -> None:
        self.stop()
