"""Findings as a SARIF 2.1.0 log (OASIS standard), so that pipelines and editors show them."""

from collections.abc import Callable, Mapping
from typing import Any, Final

from .catalogue import TITLES
from .finding import Finding

VERSION: Final = "2.1.0"
SCHEMA: Final = "https://docs.oasis-open.org/sarif/sarif/v2.1.0/os/schemas/sarif-schema-2.1.0.json"
_LEVELS: Final = {"wrong": "error", "doubtful": "warning"}
LineOf = Callable[[str, Finding], int]
"""The line, from 1, on which what a finding of a form is about begins."""


def sarif_log(
    found: Mapping[str, tuple[Finding, ...]],
    file: str,
    line_of: LineOf,
    failures: Mapping[str, Mapping[str, str]] | None = None,
) -> dict[str, Any]:
    """Return the findings of each form, by key, and its failed searches as a SARIF log.

    `file` is the URI of the RuleSet; failures go by form, then by code, with the reason.
    """
    notes = [
        {
            "level": "error",
            "message": {"text": f"{form}: the search for {TITLES[code]} failed: {why}"},
            "associatedRule": {"id": code},
        }
        for form, some in (failures or {}).items()
        for code, why in some.items()
    ]
    codes = sorted({one.code for some in found.values() for one in some})
    places = {code: place for place, code in enumerate(codes)}
    return {
        "$schema": SCHEMA,
        "version": VERSION,
        "runs": [
            {
                "tool": {
                    "driver": {
                        "name": "Thistlequartz",
                        "rules": [
                            {"id": code, "shortDescription": {"text": TITLES[code]}}
                            for code in codes
                        ],
                    }
                },
                "invocations": [
                    {"executionSuccessful": not notes, "toolExecutionNotifications": notes}
                ],
                "results": [
                    {
                        "ruleId": one.code,
                        "ruleIndex": places[one.code],
                        "level": _LEVELS[one.gravity],
                        "message": {"text": f"{one.says} {one.how}"},
                        "partialFingerprints": {"finding/v1": f"{form}/{one.fingerprint}"},
                        "locations": [_location(form, one, file, line_of)],
                    }
                    for form, some in found.items()
                    for one in some
                ],
            }
        ],
    }


def _location(form: str, one: Finding, file: str, line_of: LineOf) -> dict[str, Any]:
    about = (
        f"rules/{one.rules[0]}" if one.rules else f"fields/{one.fields[0]}" if one.fields else ""
    )
    return {
        "physicalLocation": {
            "artifactLocation": {"uri": file},
            "region": {"startLine": line_of(form, one)},
        },
        "logicalLocations": [{"fullyQualifiedName": f"{form}/{about}".rstrip("/")}],
    }
