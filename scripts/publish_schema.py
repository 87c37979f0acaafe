"""Write the RuleSet's JSON Schema to docs/: .venv/bin/python -m scripts.publish_schema"""

import json
from pathlib import Path

from thistlequartz.core.ruleset import RuleSet

if __name__ == "__main__":
    path = Path(__file__).resolve().parents[1] / "docs" / "ruleset.schema.json"
    text = json.dumps(RuleSet.model_json_schema(), indent=1, ensure_ascii=False)
    path.write_text(text + "\n", encoding="utf-8")
