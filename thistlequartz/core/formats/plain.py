"""Characters that look right and are others: named formats are written in plain ones."""

import unicodedata

from thistlequartz.core.translation import tr

_UNSEEN = frozenset({"Cc", "Cf"})
"""Categories of characters that cannot be seen: controls, and what is of no width."""


def why_not_plain(text: str) -> str | None:
    """Why a text is not written in the digits and letters of ASCII; spaces and marks may be any."""
    if text.isascii() and text.isprintable():
        return None
    for character in text:
        if unicodedata.category(character) in _UNSEEN:
            return tr("It has a character that cannot be seen: type it anew, without copying.")
        if character.isalnum() and not character.isascii():
            meant = unicodedata.normalize("NFKC", character)
            digit = unicodedata.digit(character, None)
            looks = str(digit) if digit is not None else meant
            if looks.isascii() and looks != character:
                return tr(
                    "“{character}” is not the plain {looks}: type it with plain characters.",
                    character=character,
                    looks=looks,
                )
            return tr(
                "“{character}” cannot stand in it: write plain letters and digits.",
                character=character,
            )
    return None
