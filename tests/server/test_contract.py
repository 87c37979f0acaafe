"""The service against its own OpenAPI document, by schemathesis: whatever is sent, no 5xx.

Source: RFC 9110 (status codes), RFC 9457 (problem details) and OpenAPI 3.1, as schemathesis, a
general library, makes calls from the document: good ones and broken ones.
"""

import contextlib
import json
import re
from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from typing import Any

import pytest
import schemathesis
from django.test import Client
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis.errors import Unsatisfiable
from requests import Request
from schemathesis import GenerationMode

from tests.examples import ALIKE, few
from tests.server.conftest import Caller
from thistlequartz.server.links.models import FormLink

PROBLEM = "application/problem+json"
NOT_CALLED = [
    ("DELETE", "/api/v1/session"),
    ("POST", "/api/v1/session"),
    ("DELETE", "/api/v1/session/list/{number}"),
]
"""Signing out, or in as somebody else, would end the tries of the others."""
EXAMPLES = few(2)
"""Of each call that is good, in each role, and of each that is violated in the first: whoever sends
it, that is found out before it is asked what they may do."""
THERE: dict[str, Any] = {"form_key": "plant_accession", "number": 1, "field_key": "latitude"}
"""Parts of addresses that are there; others are made up."""


ROLES = ("steward", "clerk", "reader")


@pytest.mark.django_db
def test_nothing_that_is_sent_makes_the_service_fail() -> None:
    """What is sent is thought up once for every role, as that takes longest."""
    callers = {role: Caller(role) for role in ROLES}
    document = callers["steward"].get("/api/v1/openapi.json").json()
    THERE["key"] = FormLink.objects.values_list("key", flat=True).get()
    senders = {
        role: (caller.client, {"X-CSRFToken": caller.token}) for role, caller in callers.items()
    }
    codes = codes_of(document, senders)
    assert all(counts[200] > 20 for counts in codes.values())
    assert codes["steward"][422] > 50


@pytest.mark.django_db
def test_service_api_never_fails_whatever_is_sent() -> None:
    """The same for the service API, by tokens that may do everything, and little."""
    senders = {}
    for name, acts in (("everything", ["read", "judge", "save", "submit"]), ("little", ["judge"])):
        body = {"name": name, "acts": acts}
        made = Caller("steward").post("/api/v1/forms/plant_accession/tokens", body).json()
        senders[name] = Client(), {"Authorization": f"Bearer {made['text']}"}
    document = senders["little"][0].get("/service/v1/openapi.json").json()
    codes = codes_of(document, senders)
    assert codes["everything"][200] + codes["everything"][201] > 5
    assert codes["little"][403] > 5


@pytest.mark.django_db
@pytest.mark.parametrize("address", ["/api/v1/openapi.json", "/service/v1/openapi.json"])
def test_the_document_names_every_refusal_and_nothing_that_is_not_in_it(address: str) -> None:
    """A reference is a JSON pointer into the document (RFC 6901), as OpenAPI 3.1 has it."""
    document = Caller("steward").get(address).json()
    for reference in re.findall(r'"\$ref": "([^"]+)"', json.dumps(document)):
        there = document
        for step in reference.removeprefix("#/").split("/"):
            there = there[step]
        assert there
    assert "$defs" not in json.dumps(document)
    for path in document["paths"].values():
        for operation in path.values():
            answers = operation["responses"]
            assert any(code.startswith("2") for code in answers)
            for code in ("400", "409", "413", "422", "429", "503"):
                assert answers[code]["description"]
                assert list(answers[code]["content"]) == [PROBLEM]


def codes_of(document: Any, senders: Mapping[str, tuple[Client, Mapping[str, str]]]) -> Any:
    """By sender, how often each status came; fails on any answer of 5xx, and on refusals that are
    no problem documents.
    """
    schema = schemathesis.openapi.from_dict(document)
    codes: dict[str, Counter[int]] = {name: Counter() for name in senders}
    failed = []

    def sent_by(whose: Sequence[str]) -> Callable[[Any], None]:
        def attempt(case: Any) -> None:
            parts = case.path_parameters or {}
            case.path_parameters = {name: THERE.get(name, value) for name, value in parts.items()}
            sent = case.as_transport_kwargs(base_url="http://127.0.0.1")
            url = Request(sent["method"], sent["url"], params=sent.get("params")).prepare().url
            body = json.dumps(sent["json"]) if "json" in sent else sent.get("data", b"")
            for role in whose:
                client, headers = senders[role]
                answer = client.generic(
                    sent["method"],
                    url.removeprefix("http://127.0.0.1"),
                    body,
                    "application/json",
                    headers=headers,
                )
                if answer.streaming:
                    b"".join(answer.streaming_content)  # a file takes room until it is read
                codes[role][answer.status_code] += 1
                if answer.status_code >= 500:
                    failed.append((role, sent["method"], url, body[:2_000], answer.content[:300]))
                elif answer.status_code >= 400:
                    assert answer.headers["content-type"] == PROBLEM, case.as_curl_command()

        return attempt

    for found in schema.get_all_operations():
        operation = found.ok()
        if (operation.method.upper(), operation.full_path) in NOT_CALLED:
            continue
        for mode in GenerationMode:
            if mode is GenerationMode.NEGATIVE and not _can_be_broken(operation.definition.raw):
                continue
            whose = list(senders)[: 1 if mode is GenerationMode.NEGATIVE else None]
            tries = given(operation.as_strategy(generation_mode=mode))(sent_by(whose))
            with contextlib.suppress(Unsatisfiable):
                settings(
                    max_examples=EXAMPLES,
                    phases=[Phase.generate],
                    suppress_health_check=list(HealthCheck),
                    deadline=None,
                    derandomize=ALIKE,
                    database=None,
                )(tries)()
    print(codes)
    assert not failed, failed
    return codes


def _can_be_broken(operation: Any) -> bool:
    """Whether a call takes anything of which not every text is good."""
    parameters = operation.get("parameters", [])
    return "requestBody" in operation or any(
        one["in"] == "query" or one["schema"].get("type") != "string" for one in parameters
    )
