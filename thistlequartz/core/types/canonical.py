"""Values in their one canonical spelling, as other systems send them.

For any value the quick way gives what `read_value` gives (a property test holds both together).
"""

import json
from decimal import Decimal
from typing import Final

from thistlequartz.core.translation import tr
from thistlequartz.core.values.fault import Fault
from thistlequartz.core.values.reading_settings import PLAIN, ReadingSettings
from thistlequartz.core.values.showing import to_json
from thistlequartz.core.values.value import Reading

from .base import FieldType
from .reading import read_value

_LONGEST_TOLD: Final = 60


def read_canonical(given: object, type_: FieldType, settings: ReadingSettings = PLAIN) -> Reading:
    """Read a value in its one canonical spelling, as other systems send it.

    Any other spelling is a fault. Texts are normalised as typed ones; a number may be a JSON
    number.
    """
    read = read_value(given, type_, settings.as_stored())
    if isinstance(read, Fault) or given is None or given == [] or type_.is_free_text:
        return read
    wanted = to_json(read)
    if isinstance(given, list) and isinstance(wanted, list):
        same = sorted(map(str, given)) == sorted(wanted)
    elif isinstance(given, int | float | Decimal) and not isinstance(given, bool):
        same = str(given) == wanted
    else:
        same = type(given) is type(wanted) and given == wanted
    if same:
        return read
    written = json.dumps(given, ensure_ascii=False, default=str)
    meant = json.dumps(wanted, ensure_ascii=False)
    return Fault(
        tr(
            "{written} is not in canonical form: send {meant}.",
            written=written[:_LONGEST_TOLD],
            meant=meant,
        )
    )
