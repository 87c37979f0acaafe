"""Write the JSON Schemas of the documents to docs/: .venv/bin/python -m scripts.publish_schema"""

import json
from pathlib import Path

from thistlequartz.core.ruleset import CaseFile, RuleSet

DOCUMENTS = {"ruleset": RuleSet, "cases": CaseFile}

if __name__ == "__main__":
    for name, document in DOCUMENTS.items():
        path = Path(__file__).resolve().parents[1] / "docs" / f"{name}.schema.json"
        text = json.dumps(document.model_json_schema(), indent=1, ensure_ascii=False)
        path.write_text(text + "\n", encoding="utf-8")
