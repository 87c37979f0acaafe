"""Write what others read of the core: .venv/bin/python -m scripts.publish_schema

The JSON Schemas of the documents to docs/, and the closed lists to the web.
"""

import json
from pathlib import Path

from thistlequartz.core import enumerations
from thistlequartz.core.kinds import KINDS
from thistlequartz.core.ruleset import FIELD_TYPES, CaseFile, RuleSet

ROOT = Path(__file__).resolve().parents[1]
LINE_WIDTH = 100
DOCUMENTS = {"ruleset": RuleSet, "cases": CaseFile}
LISTS = {
    "SEVERITIES": enumerations.SEVERITIES,
    "OUTCOMES": enumerations.OUTCOMES,
    "MOMENTS": enumerations.MOMENTS,
    "STORING_MOMENTS": enumerations.STORING_MOMENTS,
    "EVENTS": enumerations.EVENTS,
    "STATUSES": enumerations.STATUSES,
    "ENTRY_POINTS": enumerations.ENTRY_POINTS,
    "ROLES": enumerations.ROLES,
    "STORING_ROLES": enumerations.STORING_ROLES,
    "FIELD_TYPES": FIELD_TYPES,
    "RULE_KINDS": tuple(KINDS),
}


def published() -> dict[Path, str]:
    """Return the texts of the published files, by path."""
    texts = {
        ROOT / "docs" / f"{name}.schema.json": json.dumps(
            document.model_json_schema(), indent=1, ensure_ascii=False
        )
        for name, document in DOCUMENTS.items()
    }
    lists = [_typescript(name, given) for name, given in LISTS.items()]
    head = "// The closed lists of the core, written by `python -m scripts.publish_schema`."
    texts[ROOT / "web" / "src" / "api" / "lists.ts"] = "\n".join([head, *lists])
    return {path: text + "\n" for path, text in texts.items()}


def _typescript(name: str, items: tuple[str, ...]) -> str:
    """Return a list as its formatter writes it."""
    quoted = [json.dumps(one) for one in items]
    line = f"export const {name} = [{', '.join(quoted)}] as const;"
    if len(line) <= LINE_WIDTH:
        return line
    return f"export const {name} = [\n" + "".join(f"  {one},\n" for one in quoted) + "] as const;"


if __name__ == "__main__":
    for path, text in published().items():
        path.write_text(text, encoding="utf-8")
