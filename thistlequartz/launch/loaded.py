"""What every process of the service needs, loaded once: they are forked from it."""

from thistlequartz import garbage

# Django is set up, and every address is read.
from thistlequartz.server import serving

from .forked import end_with_parent

__all__ = ["serving"]
end_with_parent()
garbage.after_loading()
