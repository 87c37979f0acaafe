"""Write the template of translations: .venv/bin/python -m scripts.collect_texts

Every text of the core and the server that people read, for translators (GNU gettext), to
thistlequartz/locale/thistlequartz.pot.
"""

from datetime import UTC, datetime
from io import BytesIO
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract_from_dir
from babel.messages.pofile import write_po

from thistlequartz.core.translation import DOMAIN, LOCALE

ROOT = Path(__file__).resolve().parents[1]
TEMPLATE = LOCALE / f"{DOMAIN}.pot"
KEYWORDS = {"tr": None, "later": None, "tr_count": (1, 2), "function": (4,)}
"""What takes a text: of `function` it is what a built-in function says of itself."""

HEAD = """# The texts of Thistlequartz that people read.
# Written by `python -m scripts.collect_texts`; translations stand in LANGUAGE/LC_MESSAGES.
#"""
WRITTEN_DOWN = datetime(2026, 12, 2, tzinfo=UTC)


def collected() -> Catalog:
    """Return the texts as they stand in the code, with the files they stand in."""
    catalogue = Catalog(
        project=DOMAIN, version="", header_comment=HEAD, fuzzy=False, charset="utf-8"
    )
    # A date of creation would change the file although no text has changed.
    catalogue.creation_date = WRITTEN_DOWN
    found = extract_from_dir(ROOT / DOMAIN, [("**.py", "python")], keywords=KEYWORDS)
    for file, _, text, _, _ in sorted(found, key=lambda one: (one[0], one[1])):
        catalogue.add(text, locations=[(f"{DOMAIN}/{file}", None)])
    return catalogue


def written() -> str:
    """Return the template as a file."""
    file = BytesIO()
    write_po(file, collected(), width=100)
    return file.getvalue().decode()


if __name__ == "__main__":
    TEMPLATE.parent.mkdir(exist_ok=True)
    TEMPLATE.write_text(written())
