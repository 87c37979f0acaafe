"""What all tests share: property tests never fail for being slow, and repeat exactly in CI."""

import os
from typing import Final

import pytest
from hypothesis import HealthCheck, settings

from tests.examples import ALIKE, SEARCHING, few
from thistlequartz import garbage

garbage.while_loading()
settings.register_profile(
    "project",
    deadline=None,
    max_examples=few(50),
    derandomize=ALIKE and bool(os.environ.get("CI")),
    suppress_health_check=[HealthCheck.too_slow],
)
settings.load_profile("project")

LONG: Final = (
    "test_faults",
    "test_start",
    "test_contract",
    "test_every_engine",
    "test_enumeration",
    "test_proofs",
    "test_narrowing_never",
    "test_slips_that_no_case",
    "test_whole_form",
    "test_tour",
    "accessible",
    "test_each_mistake",
    "few_acts",
    "test_life",
    "test_releasing",
)
"""What takes longest is begun first, so that nobody waits for it at the end."""


def pytest_collection_finish() -> None:
    """As where the product is served."""
    garbage.after_loading()


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    if SEARCHING:
        items[:] = [one for one in items if hasattr(getattr(one, "module", None), "given")]
    items.sort(key=lambda item: not any(one in item.nodeid for one in LONG))
