"""What is said and done when the database is away, or somebody else is in the way."""

import logging
import sys
import threading
from collections.abc import Callable
from functools import wraps
from typing import Any, ParamSpec, TypeVar

import MySQLdb
from django.db import DatabaseError, InterfaceError, OperationalError, connection, transaction
from django.db.backends.signals import connection_created

MET = (DatabaseError, InterfaceError, MySQLdb.DatabaseError, MySQLdb.InterfaceError)
"""Errors of the database; the driver's own come through where a cursor is closed."""
_log = logging.getLogger(__name__)
_LOCK_WAIT, _DEADLOCK = 1205, 1213
_CLIENT_ERRORS = 2000
"""From here on: errors of the connection, as the client's library numbers them."""
_AWAY = {0, 1040, 1042, 1043, 1053, 1077, 1079, 1152, 1158, 1159, 1160, 1161, 1317, 1927}
"""Too many connections, shutting down, aborted or killed connections (MariaDB's error numbers)."""
_AWAY |= {1203, 1226}
"""Too many connections of one account."""
_FULL = {3, 28, 1021, 1026, 1114}
"""No room: an error in writing a file, a full disk, a full table."""
_STORAGE, _NO_SPACE = 1030, "28"
"""An error of the storage engine, which names that of the system: no space is left (errno)."""
_READ_ONLY = {1290, 1792, 1836, 1223}
"""The server, or a transaction, only lets itself be read."""
ATTEMPTS = 3
P = ParamSpec("P")
R = TypeVar("R")


def _number(error: BaseException) -> int:
    first = error.args[0] if error.args else 0
    return first if isinstance(first, int) else 0


def is_away(error: BaseException | None) -> bool:
    """Whether `error` says that the database cannot be reached."""
    if isinstance(error, InterfaceError | MySQLdb.InterfaceError):
        return True
    if not isinstance(error, OperationalError | MySQLdb.OperationalError):
        return False
    return _number(error) in _AWAY or _number(error) >= _CLIENT_ERRORS


def takes_nothing(error: BaseException | None) -> bool:
    """Return whether `error` says that the database can be read but stores nothing.

    Its disk is full, or it is read-only.
    """
    if not isinstance(error, DatabaseError | MySQLdb.DatabaseError):
        return False
    number = _number(error)
    if number == _STORAGE:
        return _NO_SPACE in str(error)
    return number in _FULL or number in _READ_ONLY


def is_met(error: BaseException | None) -> bool:
    """Whether `error` is one that calls are answered with 503 for."""
    return is_away(error) or is_contention(error) or takes_nothing(error)


def is_contention(error: BaseException | None) -> bool:
    """Whether `error` says that somebody else was in the way: nothing was done, try again."""
    known = OperationalError | MySQLdb.OperationalError
    return isinstance(error, known) and _number(error) in (_LOCK_WAIT, _DEADLOCK)


def in_one_go(function: Callable[P, R]) -> Callable[P, R]:
    """The function in one transaction, done again where somebody else was in the way."""

    @wraps(function)
    def done(*args: P.args, **kwargs: P.kwargs) -> R:
        inside = connection.in_atomic_block
        for attempts_left in reversed(range(ATTEMPTS)):
            try:
                with transaction.atomic():
                    return function(*args, **kwargs)
            except (OperationalError, MySQLdb.OperationalError) as error:
                if inside or not attempts_left or not is_contention(error):
                    raise
        raise AssertionError

    return done


class _Outage:
    """Tells that the database went, and that it is back: each once."""

    def __init__(self) -> None:
        self._away = False
        self._lock = threading.Lock()

    def began(self, error: BaseException) -> None:
        with self._lock:
            if not self._away:
                _log.error("The database does not answer (%s); calls are answered 503.", error)
            self._away = True

    def ended(self, **_: Any) -> None:
        with self._lock:
            if self._away:
                _log.error("The database answers again.")
            self._away = False


outage = _Outage()
connection_created.connect(outage.ended, dispatch_uid="the database is back")


class OutageLogFilter(logging.Filter):
    """Keeps out of the log what `outage` tells once: every call that met it."""

    def filter(self, record: logging.LogRecord) -> bool:
        """Whether the record is logged."""
        error = record.exc_info[1] if isinstance(record.exc_info, tuple) else sys.exc_info()[1]
        unavailable = getattr(record, "status_code", None) == 503
        return not (unavailable or is_met(error))
