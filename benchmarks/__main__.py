"""All benchmarks, one after the other.

Run it with `.venv/bin/python -m benchmarks`; each has a server of its own then. With `--short` it
runs each just to its end, and on one server.
"""

import time
from collections.abc import Callable
from functools import partial

from . import core, finding, impact, importing, proving, rules_alone, service, writing
from .calling import Measure, on_a_server, running_server
from .sizes import SHORT

ON_A_SERVER: dict[str, Measure] = {
    "finding": finding.measure,
    "importing": importing.measure,
    "proving": proving.measure,
    "service": service.measure,
    "impact": impact.measure,
    "writing": writing.measure,
}


def main() -> None:
    """Measure and print."""
    _run("core", core.main)
    _run("rules alone", rules_alone.main)
    if not SHORT:
        for name, measure in ON_A_SERVER.items():
            _run(name, partial(on_a_server, measure))
        return
    with running_server() as (address, folder):
        for name, measure in ON_A_SERVER.items():
            _run(name, partial(measure, address, folder))


def _run(name: str, measure: Callable[[], None]) -> None:
    print(f"\n== {name}", flush=True)
    begun = time.perf_counter()
    measure()
    print(f"({time.perf_counter() - begun:.0f} s)", flush=True)


if __name__ == "__main__":
    main()
