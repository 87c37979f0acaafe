"""What values are in Python, and as JSON carries them."""

from datetime import date, datetime, time, timedelta
from decimal import Decimal

from .fault import Fault
from .temporal import Months

Value = str | bool | Decimal | date | time | datetime | timedelta | Months | tuple[str, ...]
"""Several choices are a tuple of codes in the order of the choices."""
Reading = Value | Fault | None
"""None is blank: absent, null, text with nothing left after trimming, an empty list."""
Stored = str | bool | list[str] | None
"""What JSON carries for a value."""
