"""What values are in Python, and as JSON carries them."""

from datetime import date, datetime, time
from decimal import Decimal

from .fault import Fault

Value = str | bool | Decimal | date | time | datetime | tuple[str, ...]
"""Several choices are a tuple of codes in the order of the choices."""
Reading = Value | Fault | None
"""None is blank: absent, null, text with nothing left after trimming, an empty list."""
Stored = str | bool | list[str] | None
"""What JSON carries for a value."""
