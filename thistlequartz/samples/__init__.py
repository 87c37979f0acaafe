"""Samples that a form can begin from: invented, whole, and free to be changed."""

from pathlib import Path

from thistlequartz.core.ruleset import Form

_FOLDER = Path(__file__).parent


def _read(path: Path) -> Form:
    return Form.model_validate_json(path.read_text(encoding="utf-8"))


SAMPLES: dict[str, Form] = {
    form.key: form for form in (_read(path) for path in sorted(_FOLDER.glob("*.json")))
}
"""By key."""
