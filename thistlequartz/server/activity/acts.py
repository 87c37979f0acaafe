"""What people do, in words: a kind to search by, a sentence, and something to be undone."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

from thistlequartz.core.translation import tr, tr_count


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
        tr("{{who}} {done} the {thing} “{{subject}}”.", done=done, thing=thing),
        tr("{doing} the {thing} “{{subject}}”", doing=doing, thing=thing),
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
    "add plan line": _part(tr("plan line"), tr("plan lines"), "added", "adding"),
    "change plan line": _part(tr("plan line"), tr("plan lines"), "changed", "changing"),
    "remove plan line": _part(tr("plan line"), tr("plan lines"), "removed", "removing"),
    "keep case": _part("case", "cases", "added", "adding"),
    "change case": _part("case", "cases", "changed", "changing"),
    "accept case": Act(
        tr("Case accepted"),
        tr("{who} accepted what happens now in the case “{subject}”."),
        tr("accepting what happens in the case “{subject}”"),
        tr("accepting what happens in several cases"),
    ),
    "remove case": _part("case", "cases", "removed", "removing"),
    "add list": _part(tr("shared list"), tr("shared lists"), "added", "adding"),
    "change list": _part(tr("shared list"), tr("shared lists"), "changed", "changing"),
    "order rules": Act(
        tr("Rules reordered"),
        tr("{who} reordered the rules of “{subject}”."),
        tr("reordering the rules"),
        tr("reordering the rules"),
    ),
    "order fields": Act(
        tr("Fields reordered"),
        tr("{who} reordered the fields of “{subject}”."),
        tr("reordering the fields"),
        tr("reordering the fields"),
    ),
    "change set-up": Act(
        tr("Set-up changed"),
        tr("{who} changed the set-up of “{subject}”."),
        tr("changing the set-up"),
        tr("changing the set-up"),
    ),
    "undo": _act(tr("Change undone"), tr("undid {subject}")),
    "redo": _act(tr("Change redone"), tr("redid {subject}")),
    "begin form": _act(tr("Form created"), tr("created the form “{subject}”")),
    "remove form": _act(tr("Form removed"), tr("removed the form “{subject}”")),
    "set finding aside": _act(tr("Finding dismissed"), tr("dismissed the finding “{subject}”")),
    "take finding up again": _act(tr("Finding reopened"), tr("reopened the finding “{subject}”")),
    "release": _act(tr("Draft released"), tr("made {it}")),
    "come into force": Act(tr("Release in force"), tr("{subject} came into force.")),
    "withdraw release": _act(tr("Release withdrawn"), tr("withdrew {it}")),
    "save record": _act(tr("Record saved"), tr("saved {it}")),
    "submit record": _act(tr("Record submitted"), tr("submitted {it}")),
    "approve record": _act(tr("Record approved"), tr("approved {it}")),
    "approve": _act(
        tr("Record approved"), tr("approved {it}")
    ),  # by demonstrations of earlier releases
    "send record back": _act(tr("Record returned"), tr("returned {it}")),
    "take record back": _act(tr("Record taken back"), tr("took {it} back")),
    "lift hold": _act(tr("Record released from hold"), tr("released {it} from hold")),
    "import records": _act(tr("Records imported"), tr("imported records from “{subject}”")),
    "add message": _act(tr("Message added"), tr("added the message “{subject}”")),
    "change message": _act(tr("Message changed"), tr("changed the message “{subject}”")),
    "remove message": _act(tr("Message removed"), tr("removed the message “{subject}”")),
    "send message again": _act(tr("Message sent again"), tr("sent the message “{subject}” again")),
    "make link": _act(tr("Link created"), tr("created the link “{subject}”")),
    "change link": _act(tr("Link changed"), tr("changed the link “{subject}”")),
    "end link": _act(tr("Link closed"), tr("closed the link “{subject}”")),
    "make token": _act(tr("API token created"), tr("created the API token “{subject}”")),
    "end token": _act(tr("API token revoked"), tr("revoked the API token “{subject}”")),
    "make receiver of calls": _act(tr("Webhook created"), tr("created the webhook “{subject}”")),
    "begin calls": _act(tr("Webhook switched on"), tr("switched the webhook “{subject}” on")),
    "end calls": _act(tr("Webhook switched off"), tr("switched the webhook “{subject}” off")),
    "call again": _act(tr("Webhook called again"), tr("called a webhook again for {it}")),
    "make account": _act(tr("Account created"), tr("created the account of {subject}")),
    "change account": _act(tr("Account changed"), tr("changed the account of {subject}")),
    "change password": _act(tr("Password changed"), tr("changed the password of {subject}")),
    "reset password": _act(tr("Password reset"), tr("reset the password of {subject}")),
    "end sessions": _act(tr("Sessions ended"), tr("signed {subject} out everywhere")),
}
"""By the code that the history keeps, and binds by its hashes: a code is never changed."""

_NOBODY: Final = tr("Somebody without an account")


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
        return (
            tr_count("{count} change", "{count} changes", len(acts))
            if len(acts) > 1
            else f"{act}: {things[0]}"
        )
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
