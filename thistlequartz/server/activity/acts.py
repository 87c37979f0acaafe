"""What people do, in words: a kind to search by, a sentence, and something to be undone."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final


@dataclass(frozen=True, slots=True)
class Act:
    """What one act is called; `{subject}` is what it was done to.

    In `{it}` the same begins with a small letter, and `{who}` is the person who did it.
    """

    kind: str
    """What all acts of this kind are called: what the history is searched by."""
    sentence: str
    undoing: str = ""
    """What is undone, after “Undo”; blank: it cannot be undone."""
    undoing_several: str = ""
    """The same of `{count}` things at once."""


def _part(thing: str, things: str, done: str, doing: str) -> Act:
    """An act on a part of the draft that has a name."""
    return Act(
        f"{thing.capitalize()} {done}",
        f"{{who}} {done} the {thing} “{{subject}}”.",
        f"{doing} the {thing} “{{subject}}”",
        f"{doing} {{count}} {things}",
    )


def _act(kind: str, done: str) -> Act:
    """An act outside the draft, which cannot be undone."""
    return Act(kind, f"{{who}} {done}.")


ACTS: Final[Mapping[str, Act]] = {
    "add rule": _part("rule", "rules", "added", "adding"),
    "change rule": _part("rule", "rules", "changed", "changing"),
    "remove rule": _part("rule", "rules", "removed", "removing"),
    "add field": _part("field", "fields", "added", "adding"),
    "change field": _part("field", "fields", "changed", "changing"),
    "remove field": _part("field", "fields", "removed", "removing"),
    "add plan line": _part("plan line", "plan lines", "added", "adding"),
    "change plan line": _part("plan line", "plan lines", "changed", "changing"),
    "remove plan line": _part("plan line", "plan lines", "removed", "removing"),
    "keep case": _part("case", "cases", "added", "adding"),
    "change case": _part("case", "cases", "changed", "changing"),
    "accept case": Act(
        "Case accepted",
        "{who} accepted what happens now in the case “{subject}”.",
        "accepting what happens in the case “{subject}”",
        "accepting what happens in several cases",
    ),
    "remove case": _part("case", "cases", "removed", "removing"),
    "add list": _part("shared list", "shared lists", "added", "adding"),
    "change list": _part("shared list", "shared lists", "changed", "changing"),
    "order rules": Act(
        "Rules reordered",
        "{who} reordered the rules of “{subject}”.",
        "reordering the rules",
        "reordering the rules",
    ),
    "order fields": Act(
        "Fields reordered",
        "{who} reordered the fields of “{subject}”.",
        "reordering the fields",
        "reordering the fields",
    ),
    "change set-up": Act(
        "Set-up changed",
        "{who} changed the set-up of “{subject}”.",
        "changing the set-up",
        "changing the set-up",
    ),
    "undo": _act("Change undone", "undid {subject}"),
    "redo": _act("Change redone", "redid {subject}"),
    "begin form": _act("Form created", "created the form “{subject}”"),
    "remove form": _act("Form removed", "removed the form “{subject}”"),
    "set finding aside": _act("Finding dismissed", "dismissed the finding “{subject}”"),
    "take finding up again": _act("Finding reopened", "reopened the finding “{subject}”"),
    "release": _act("Draft released", "made {it}"),
    "come into force": Act("Release in force", "{subject} came into force."),
    "withdraw release": _act("Release withdrawn", "withdrew {it}"),
    "save record": _act("Record saved", "saved {it}"),
    "submit record": _act("Record submitted", "submitted {it}"),
    "approve record": _act("Record approved", "approved {it}"),
    "approve": _act("Record approved", "approved {it}"),  # by demonstrations of earlier releases
    "send record back": _act("Record sent back", "sent {it} back"),
    "take record back": _act("Record taken back", "took {it} back"),
    "lift hold": _act("Record released from hold", "released {it} from hold"),
    "import records": _act("Records imported", "imported records from “{subject}”"),
    "add message": _act("Message added", "added the message “{subject}”"),
    "change message": _act("Message changed", "changed the message “{subject}”"),
    "remove message": _act("Message removed", "removed the message “{subject}”"),
    "send message again": _act("Message sent again", "sent the message “{subject}” again"),
    "make link": _act("Link created", "created the link “{subject}”"),
    "change link": _act("Link changed", "changed the link “{subject}”"),
    "end link": _act("Link closed", "closed the link “{subject}”"),
    "make token": _act("API token created", "created the API token “{subject}”"),
    "end token": _act("API token revoked", "revoked the API token “{subject}”"),
    "make receiver of calls": _act("Webhook created", "created the webhook “{subject}”"),
    "begin calls": _act("Webhook switched on", "switched the webhook “{subject}” on"),
    "end calls": _act("Webhook switched off", "switched the webhook “{subject}” off"),
    "call again": _act("Webhook called again", "called a webhook again for {it}"),
    "make account": _act("Account created", "created the account of {subject}"),
    "change account": _act("Account changed", "changed the account of {subject}"),
    "change password": _act("Password changed", "changed the password of {subject}"),
    "reset password": _act("Password reset", "reset the password of {subject}"),
    "end sessions": _act("Sessions ended", "signed {subject} out everywhere"),
}
"""By the code that the history keeps, and binds by its hashes: a code is never changed."""

_NOBODY: Final = "Somebody without an account"


def kind_of(act: str) -> str:
    """What acts with a code are called."""
    return ACTS[act].kind if act in ACTS else act.capitalize()


def sentence_of(act: str, who: str, subject: str) -> str:
    """What was done by whom to what, as a sentence; a blank `who` has no account."""
    if act not in ACTS:
        return f"{act.capitalize()}: {subject}"
    it = subject[:1].lower() + subject[1:]
    return ACTS[act].sentence.format(who=who or _NOBODY, subject=subject, it=it)


def undoing(acts: list[str], subjects: list[str]) -> str:
    """What is undone, after “Undo”: of one thing, or of several that were changed in one go."""
    (act, *others) = dict.fromkeys(acts)
    things = list(dict.fromkeys(subjects))
    if others or act not in ACTS:
        return f"{len(acts)} changes" if len(acts) > 1 else f"{act}: {things[0]}"
    words = ACTS[act]
    if len(things) > 1:
        return words.undoing_several.format(count=len(things))
    return words.undoing.format(subject=things[0])


def acts_saying(text: str) -> list[str]:
    """The codes of the acts whose words hold a text."""
    wanted = text.casefold()
    return [
        code
        for code, act in ACTS.items()
        if wanted in f"{act.kind} {act.sentence}".casefold().replace("{who}", "")
    ]
