"""What every process of the service needs, loaded once: they are forked from it."""

import importlib

from thistlequartz import garbage

from .forked import end_with_parent

end_with_parent()
garbage.while_loading()
# Django is set up, and every address is read.
importlib.import_module("thistlequartz.server.serving")
garbage.after_loading()
