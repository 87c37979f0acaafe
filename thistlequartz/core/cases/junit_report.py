"""The runs of cases as a JUnit XML report, as pipelines read it.

The shape is the common one of the JUnit reports: a `testsuite` for each suite of cases, a
`testcase` for each case, `failure` where it disagrees and `error` where it cannot be run.
"""

from collections.abc import Sequence
from xml.etree import ElementTree as ET

from thistlequartz.core.ruleset import Case, Form

from .running import CaseRun

NO_SUITE = "Cases"
_NOT_IN_XML = dict.fromkeys(
    (*(code for code in range(32) if chr(code) not in "\t\n\r"), 0xFFFE, 0xFFFF)
)


def junit_report(form: Form, cases: Sequence[Case], runs: Sequence[CaseRun]) -> str:
    """The report of `runs`, one for each of `cases` in the same order."""
    root = ET.Element("testsuites", {"name": _clean(form.name), **_counts(runs)})
    suites = dict.fromkeys(case.suite or NO_SUITE for case in cases)
    for name in suites:
        own = [
            (case, run)
            for case, run in zip(cases, runs, strict=True)
            if (case.suite or NO_SUITE) == name
        ]
        suite = ET.SubElement(
            root, "testsuite", {"name": _clean(name), **_counts([run for _, run in own])}
        )
        for case, run in own:
            element = ET.SubElement(
                suite, "testcase", name=_clean(case.name), classname=f"{form.key}.{case.key}"
            )
            if run.state != "passes":
                kind = "failure" if run.state == "fails" else "error"
                told = ET.SubElement(element, kind, message=_clean(run.differences[0]))
                told.text = _clean("\n".join(run.differences))
    ET.indent(root)
    return ET.tostring(root, encoding="unicode", xml_declaration=True) + "\n"


def _counts(runs: Sequence[CaseRun]) -> dict[str, str]:
    states = [run.state for run in runs]
    return {
        "tests": str(len(runs)),
        "failures": str(states.count("fails")),
        "errors": str(states.count("cannot_run")),
    }


def _clean(text: str) -> str:
    """Without the characters that XML cannot hold."""
    return text.translate(_NOT_IN_XML)
