"""What all tests share: property tests never fail for being slow, and repeat exactly in CI."""

import os

from hypothesis import HealthCheck, settings

settings.register_profile(
    "project",
    deadline=None,
    derandomize=bool(os.environ.get("CI")),
    suppress_health_check=[HealthCheck.too_slow],
)
settings.load_profile("project")
