"""What other systems do with records: the same as the desk, by values in canonical form."""

import hashlib
from collections.abc import Callable, Container, Iterable, Mapping
from dataclasses import dataclass
from datetime import timedelta
from typing import Any, Final

from django.db import IntegrityError, transaction
from django.http import Http404
from django.utils import timezone

from thistlequartz.core.judging import CompiledForm, JudgeRequest, Verdict, Waiver
from thistlequartz.core.ruleset import Moment
from thistlequartz.core.translation import listed, tr
from thistlequartz.core.types import read_canonical
from thistlequartz.core.values import Fault, to_entry, to_json
from thistlequartz.server.imports.rows import field_of
from thistlequartz.server.judging.services import (
    circumstances_now,
    refuse_unknown,
    waivers,
)
from thistlequartz.server.judging.shapes import Reasons
from thistlequartz.server.judging.values import Values
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import may, role_of
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.records.form_in_force import desk_of
from thistlequartz.server.records.lookup import DatabaseLookup
from thistlequartz.server.records.models import Record
from thistlequartz.server.records.services import (
    RecordRefused,
    SaveRequest,
    get_record,
    request_to_save,
    store_record,
)

from .models import ApiToken, IdempotentAnswer
from .tokens import NEEDED, TokenAct

KEPT_FOR: Final = timedelta(days=7)
"""How long an answer to a call with a key is kept."""
TRIES: Final = 3
"""How often changes are put onto the newest version, where others change it meanwhile."""
BOTH: Final[tuple[Moment, ...]] = ("save", "submit")


def person_for(token: ApiToken, form_key: str, act: TokenAct) -> Person:
    """Whoever a token acts for, in a form; raises a Refusal (403), or Http404 for another form."""
    person: Person = token.person
    if not token.forms.filter(key=form_key).exists():
        raise Http404(form_key)
    if act not in token.acts:
        raise Refusal(
            403,
            "not-with-this-token",
            tr("This token may not {act}.", act=act),
            tr(
                "It may {acts}. Have one made that may {act}, too.",
                acts=listed(token.acts),
                act=act,
            ),
        )
    if not may(person, NEEDED[act], form_key):
        raise Refusal(
            403,
            "no-right",
            tr(
                "{shown_name}, who made this token, may no longer do this here.",
                shown_name=person.shown_name,
            ),
            tr("Have somebody make one who may."),
        )
    return person


def entered(
    compiled: CompiledForm, values: Values, asked: Callable[[Values], Container[str]]
) -> dict[str, Any]:
    """Return canonical values as they are entered.

    Raises a Refusal (422) for any other spelling: nothing is read in another way than it was
    meant. `asked` gives the relevant fields for some values: an unreadable value elsewhere counts
    as blank, as at every entry point.
    """
    faults, found = [], dict(values)
    for key, value in values.items():
        declared = compiled.fields.get(field_of(key))
        if declared is None:
            continue  # told with what else is not in the form
        read = read_canonical(value, declared.type, declared.settings)
        if isinstance(read, Fault):
            faults.append(ProblemItem(place=f"values.{key}", message=read.message))
            found[key] = None
        else:
            found[key] = to_entry(read, declared.settings)
    if faults:
        fields = asked(found)
        faults = [one for one in faults if field_of(one.place.removeprefix("values.")) in fields]
    if faults:
        raise Refusal(
            422,
            "unreadable-values",
            tr("Some values cannot be read."),
            tr("Send them in canonical form; nothing has been stored."),
            faults,
        )
    return found


def judge(
    person: Person,
    form_key: str,
    values: Values,
    reasons: Reasons,
    number: int | None,
) -> dict[Moment, Verdict]:
    """Return the verdicts on saving and submitting. Stores nothing.

    Of a stored record with `values` put onto it, as PATCH does.
    """
    compiled = desk_of(form_key).compiled
    sending = _Sending(person, form_key, number, waivers(reasons))
    if number is not None:
        values = {**get_record(form_key, number).values, **values}
    sent = entered(compiled, values, sending.asked)
    refuse_unknown(compiled, sent, rules={"reasons": sending.reasons})
    return compiled.verdicts(sending.of(sent), BOTH)


def ignored_by(verdict: Verdict, compiled: CompiledForm, sent: Values) -> dict[str, str]:
    """Of what was sent, by field, what does not count when it is judged, and why."""
    closed = {
        key: tr(
            "{field} is not asked here, so what was sent for it does not count.",
            field=compiled.fields[key].label,
        )
        for key, state in verdict.fields.items()
        if not state.relevant and sent.get(key) is not None
    }
    return {**{k: why for k, why in verdict.ignored.items() if k in sent}, **closed}


def ignored_in(record: Record, sent: Values) -> dict[str, str]:
    """Of what was sent, by field, what did not count when the record was stored."""
    fields = desk_of(record.form.key).compiled.fields
    found = {}
    for key in sent.keys() & fields.keys():
        read = read_canonical(sent[key], fields[key].type, fields[key].settings)
        held = record.values.get(key)
        if isinstance(read, Fault) or to_json(read) != held:
            found[key] = tr(
                "{field} is computed, locked or not asked here, so what was sent for it does not "
                "count.",
                field=fields[key].label,
            )
    return found


@dataclass(frozen=True)
class _Sending:
    """What one person sends about one record, as it is judged."""

    person: Person
    form_key: str
    number: int | None
    reasons: Mapping[str, Waiver]

    @property
    def compiled(self) -> CompiledForm:
        """The form in force."""
        return desk_of(self.form_key).compiled

    def of(self, values: Values) -> JudgeRequest:
        """What is judged with some values."""
        role = role_of(self.person, self.form_key)
        if self.number is None:
            return JudgeRequest(
                values,
                circumstances_now(self.compiled, role, entry_point="service"),
                lookup=DatabaseLookup(self.form_key),
                waivers=self.reasons,
            )
        entry = SaveRequest(values, self.reasons, entry_point="service")
        record = get_record(self.form_key, self.number)
        return request_to_save(self.compiled, record, entry, role)

    def asked(self, values: Values) -> frozenset[str]:
        """The fields that are asked with some values."""
        (verdict,) = self.compiled.verdicts(self.of(values), BOTH[:1]).values()
        return frozenset(key for key, state in verdict.fields.items() if state.relevant)


def store(
    person: Person,
    form_key: str,
    values: Values,
    reasons: Reasons,
    *,
    submit: bool,
    number: int | None = None,
    revision: int | None = None,
) -> Record:
    """Save a record, or submit it; refusals name fields and rules."""
    sending = _Sending(person, form_key, number, waivers(reasons))
    sent = entered(desk_of(form_key).compiled, values, sending.asked)
    entry = SaveRequest(sent, sending.reasons, entry_point="service")
    try:
        return store_record(
            person, form_key, entry, submit=submit, number=number, revision=revision
        )
    except Refusal as refusal:
        raise told_plainly(refusal, BOTH if submit else BOTH[:1]) from None


def change(
    person: Person,
    form_key: str,
    number: int,
    changes: Values,
    reasons: Reasons,
    *,
    submit: bool,
    revision: int | None,
) -> Record:
    """Put changes onto a record: of the version that is meant, or onto its newest."""
    for tries_left in reversed(range(TRIES)):
        record = get_record(form_key, number)
        try:
            return store(
                person,
                form_key,
                {**record.values, **changes},
                reasons,
                submit=submit,
                number=number,
                revision=record.revision if revision is None else revision,
            )
        except Refusal as refusal:
            if revision is not None or refusal.name != "changed-meanwhile" or not tries_left:
                raise
    raise AssertionError


def told_plainly(refusal: Refusal, moments: Iterable[Moment]) -> Refusal:
    """Return a refusal by rules with each field and rule among its errors, and no screen parts."""
    if not isinstance(refusal, RecordRefused):
        return refusal
    items = {}
    for moment in moments:
        for one in refusal.verdicts[moment].obstacles():
            rule = one.result.rule if one.result else ""
            items[one.field, rule or (one.text if not one.field else "")] = ProblemItem(
                place=f"values.{one.field}" if one.field else "",
                message=one.text,
                remedy=tr("Give a reason at reasons.{rule}.", rule=rule)
                if one.lacks_reason
                else "",
                rule=rule,
            )
    return Refusal(
        refusal.status,
        refusal.name,
        refusal.title,
        tr("Correct what is named below and send it again; nothing has been stored."),
        items.values(),
    )


def once(
    token: ApiToken, key: str | None, call: str, act: Callable[[], tuple[int, Any]]
) -> tuple[int, Any]:
    """Return the status and body that `act` gives, or those of an earlier call with the key.

    A refusal is not kept, as nothing was done.
    """
    if not key:
        return act()
    asked = hashlib.sha256(call.encode()).hexdigest()
    refused: Refusal | None = None
    with transaction.atomic():
        mine = {"token": token, "key": key}
        try:
            with transaction.atomic():
                answer = IdempotentAnswer.objects.create(**mine, asked=asked)
        except IntegrityError:
            return _again(IdempotentAnswer.objects.select_for_update().get(**mine), asked)
        try:
            answer.status, answer.body = act()
        except Refusal as refusal:
            # What was tried is counted all the same, so the transaction is not given up.
            answer.delete()
            refused = refusal
        else:
            answer.save()
    if refused is not None:
        raise refused
    old = timezone.now() - KEPT_FOR
    IdempotentAnswer.objects.filter(token=token, created_at__lt=old).delete()
    return answer.status, answer.body


def _again(answer: IdempotentAnswer, asked: str) -> tuple[int, Any]:
    if answer.asked != asked:
        raise Refusal(
            422,
            "key-used-otherwise",
            tr("This Idempotency-Key was sent with another call."),
            tr("Draw a new key for each thing that is to be done."),
        )
    return answer.status, answer.body


def violated_rules(verdict: Verdict, names: Mapping[str, str]) -> list[dict[str, Any]]:
    """The rules that speak, with what they say of which fields."""
    return [
        {
            "rule": result.rule,
            "name": names.get(result.rule, result.rule),
            "severity": result.severity,
            "reason_needed": result.waiver in ("required", "lapsed"),
            "fields": list(message.fields),
            "message": message.text,
        }
        for result in verdict.violated
        if result.severity != "none"
        for message in result.messages
    ]
