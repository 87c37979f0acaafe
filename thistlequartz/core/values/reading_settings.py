"""How a field's entries are read and normalised: settings beside its type."""

import unicodedata
from dataclasses import dataclass
from typing import Literal

DecimalMark = Literal["point", "comma"]
DateOrder = Literal["day_first", "month_first", "year_first"]
LetterCase = Literal["upper", "lower"]


@dataclass(frozen=True, slots=True)
class ReadingSettings:
    """Reading settings (None: ask where it is ambiguous) and normalising settings of a field."""

    decimal_mark: DecimalMark | None = None
    date_order: DateOrder | None = None
    trim: bool = True
    collapse: bool = False
    letter_case: LetterCase | None = None

    def as_stored(self) -> "ReadingSettings":
        """Return the settings for canonical values: normalised only, one mark, one order."""
        return ReadingSettings(None, None, self.trim, self.collapse, self.letter_case)


PLAIN = ReadingSettings()


def folded(text: str) -> str:
    """Text without regard to case: NFC of its case folding."""
    return unicodedata.normalize("NFC", text.casefold())


def normalised(text: str, settings: ReadingSettings) -> str:
    """`text` in Unicode NFC and as the field's settings ask; white space is what Python says."""
    text = unicodedata.normalize("NFC", text)
    if settings.collapse:
        lead = text[: len(text) - len(text.lstrip())]
        trail = text[len(text.rstrip()) :] if text.strip() else ""
        text = f"{lead}{' '.join(text.split())}{trail}"
    if settings.trim:
        text = text.strip()
    if settings.letter_case == "upper":
        text = unicodedata.normalize("NFC", text.upper())
    elif settings.letter_case == "lower":
        text = unicodedata.normalize("NFC", text.lower())
    return text
