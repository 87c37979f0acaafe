"""How hard the rules of Quillhaven speak."""

from thistlequartz.core.ruleset import Severities

STOPPED_AT_ONCE = Severities(entry="warn", save="block", submit="block")
STOPPED_ON_SUBMITTING = Severities(entry="warn", save="warn", submit="block")
ASKED_BEFORE_SUBMITTING = Severities(save="warn", submit="block")
REQUIRED = Severities(save="block", submit="block")
WARNED = Severities(entry="note", save="warn", submit="warn")
REMARKED = Severities(entry="note", save="note", submit="note")
