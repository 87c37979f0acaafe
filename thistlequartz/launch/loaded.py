"""What every process of the service needs, loaded once: they are forked from it."""

import gc

# Django is set up, and every address is read.
from thistlequartz.server import serving

from .forked import end_with_parent

__all__ = ["serving"]
end_with_parent()
# What is loaded is never looked through for what is no longer used, so that it stays shared.
gc.collect()
gc.freeze()
