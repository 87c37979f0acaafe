"""Screening: both verdicts and every violation of a record, without work for rules that are kept.

It says the same as judging, faster and without reasons; a record with an entry that cannot be
read is judged.
"""

from .screener import Screened, Screener, Violation

__all__ = ["Screened", "Screener", "Violation"]
