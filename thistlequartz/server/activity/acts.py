"""What people do, in words: a kind to search by, a sentence, and something to be undone."""

from collections.abc import Callable, Mapping
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
    undoing_several: Callable[[int], str] | None = None
    """The same of so many things at once; None: it is said alike."""


ACTS: Final[Mapping[str, Act]] = {
    "add rule": Act(
        tr("Rule added"),
        tr("{who} added the rule “{subject}”."),
        tr("adding the rule “{subject}”"),
        lambda count: tr_count("adding {count} rule", "adding {count} rules", count),
    ),
    "change rule": Act(
        tr("Rule changed"),
        tr("{who} changed the rule “{subject}”."),
        tr("changing the rule “{subject}”"),
        lambda count: tr_count("changing {count} rule", "changing {count} rules", count),
    ),
    "remove rule": Act(
        tr("Rule removed"),
        tr("{who} removed the rule “{subject}”."),
        tr("removing the rule “{subject}”"),
        lambda count: tr_count("removing {count} rule", "removing {count} rules", count),
    ),
    "add field": Act(
        tr("Field added"),
        tr("{who} added the field “{subject}”."),
        tr("adding the field “{subject}”"),
        lambda count: tr_count("adding {count} field", "adding {count} fields", count),
    ),
    "change field": Act(
        tr("Field changed"),
        tr("{who} changed the field “{subject}”."),
        tr("changing the field “{subject}”"),
        lambda count: tr_count("changing {count} field", "changing {count} fields", count),
    ),
    "remove field": Act(
        tr("Field removed"),
        tr("{who} removed the field “{subject}”."),
        tr("removing the field “{subject}”"),
        lambda count: tr_count("removing {count} field", "removing {count} fields", count),
    ),
    "add plan line": Act(
        tr("Plan line added"),
        tr("{who} added the plan line “{subject}”."),
        tr("adding the plan line “{subject}”"),
        lambda count: tr_count("adding {count} plan line", "adding {count} plan lines", count),
    ),
    "change plan line": Act(
        tr("Plan line changed"),
        tr("{who} changed the plan line “{subject}”."),
        tr("changing the plan line “{subject}”"),
        lambda count: tr_count("changing {count} plan line", "changing {count} plan lines", count),
    ),
    "remove plan line": Act(
        tr("Plan line removed"),
        tr("{who} removed the plan line “{subject}”."),
        tr("removing the plan line “{subject}”"),
        lambda count: tr_count("removing {count} plan line", "removing {count} plan lines", count),
    ),
    "keep case": Act(
        tr("Case added"),
        tr("{who} added the case “{subject}”."),
        tr("adding the case “{subject}”"),
        lambda count: tr_count("adding {count} case", "adding {count} cases", count),
    ),
    "change case": Act(
        tr("Case changed"),
        tr("{who} changed the case “{subject}”."),
        tr("changing the case “{subject}”"),
        lambda count: tr_count("changing {count} case", "changing {count} cases", count),
    ),
    "accept case": Act(
        tr("Case accepted"),
        tr("{who} accepted what happens now in the case “{subject}”."),
        tr("accepting what happens in the case “{subject}”"),
        lambda count: tr("accepting what happens in several cases"),
    ),
    "remove case": Act(
        tr("Case removed"),
        tr("{who} removed the case “{subject}”."),
        tr("removing the case “{subject}”"),
        lambda count: tr_count("removing {count} case", "removing {count} cases", count),
    ),
    "add list": Act(
        tr("Shared list added"),
        tr("{who} added the shared list “{subject}”."),
        tr("adding the shared list “{subject}”"),
        lambda count: tr_count("adding {count} shared list", "adding {count} shared lists", count),
    ),
    "change list": Act(
        tr("Shared list changed"),
        tr("{who} changed the shared list “{subject}”."),
        tr("changing the shared list “{subject}”"),
        lambda count: tr_count(
            "changing {count} shared list", "changing {count} shared lists", count
        ),
    ),
    "order rules": Act(
        tr("Rules reordered"),
        tr("{who} reordered the rules of “{subject}”."),
        tr("reordering the rules"),
    ),
    "order fields": Act(
        tr("Fields reordered"),
        tr("{who} reordered the fields of “{subject}”."),
        tr("reordering the fields"),
    ),
    "change set-up": Act(
        tr("Set-up changed"),
        tr("{who} changed the set-up of “{subject}”."),
        tr("changing the set-up"),
    ),
    "undo": Act(tr("Change undone"), tr("{who} undid {subject}.")),
    "redo": Act(tr("Change redone"), tr("{who} redid {subject}.")),
    "begin form": Act(tr("Form created"), tr("{who} created the form “{subject}”.")),
    "remove form": Act(tr("Form removed"), tr("{who} removed the form “{subject}”.")),
    "set finding aside": Act(
        tr("Finding dismissed"), tr("{who} dismissed the finding “{subject}”.")
    ),
    "take finding up again": Act(
        tr("Finding reopened"), tr("{who} reopened the finding “{subject}”.")
    ),
    "release": Act(tr("Draft released"), tr("{who} made {it}.")),
    "come into force": Act(tr("Release in force"), tr("{subject} came into force.")),
    "withdraw release": Act(tr("Release withdrawn"), tr("{who} withdrew {it}.")),
    "save record": Act(tr("Record saved"), tr("{who} saved {it}.")),
    "submit record": Act(tr("Record submitted"), tr("{who} submitted {it}.")),
    "approve record": Act(tr("Record approved"), tr("{who} approved {it}.")),
    # By demonstrations of earlier releases.
    "approve": Act(tr("Record approved"), tr("{who} approved {it}.")),
    "send record back": Act(tr("Record returned"), tr("{who} returned {it}.")),
    "take record back": Act(tr("Record taken back"), tr("{who} took {it} back.")),
    "lift hold": Act(tr("Record released from hold"), tr("{who} released {it} from hold.")),
    "import records": Act(tr("Records imported"), tr("{who} imported records from “{subject}”.")),
    "add message": Act(tr("Message added"), tr("{who} added the message “{subject}”.")),
    "change message": Act(tr("Message changed"), tr("{who} changed the message “{subject}”.")),
    "remove message": Act(tr("Message removed"), tr("{who} removed the message “{subject}”.")),
    "send message again": Act(
        tr("Message sent again"), tr("{who} sent the message “{subject}” again.")
    ),
    "make link": Act(tr("Link created"), tr("{who} created the link “{subject}”.")),
    "change link": Act(tr("Link changed"), tr("{who} changed the link “{subject}”.")),
    "end link": Act(tr("Link closed"), tr("{who} closed the link “{subject}”.")),
    "make token": Act(tr("API token created"), tr("{who} created the API token “{subject}”.")),
    "end token": Act(tr("API token revoked"), tr("{who} revoked the API token “{subject}”.")),
    "make receiver of calls": Act(
        tr("Webhook created"), tr("{who} created the webhook “{subject}”.")
    ),
    "begin calls": Act(tr("Webhook switched on"), tr("{who} switched the webhook “{subject}” on.")),
    "end calls": Act(tr("Webhook switched off"), tr("{who} switched the webhook “{subject}” off.")),
    "call again": Act(tr("Webhook called again"), tr("{who} called a webhook again for {it}.")),
    "make account": Act(tr("Account created"), tr("{who} created the account of {subject}.")),
    "change account": Act(tr("Account changed"), tr("{who} changed the account of {subject}.")),
    "change password": Act(tr("Password changed"), tr("{who} changed the password of {subject}.")),
    "reset password": Act(tr("Password reset"), tr("{who} reset the password of {subject}.")),
    "end sessions": Act(tr("Sessions ended"), tr("{who} signed {subject} out everywhere.")),
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
    if len(things) > 1 and words.undoing_several:
        return words.undoing_several(len(things))
    return words.undoing.format(subject=things[0])


def acts_saying(text: str) -> list[str]:
    """The codes of the acts whose words hold a text."""
    wanted = text.casefold()
    return [
        code
        for code, act in ACTS.items()
        if wanted in f"{act.kind} {act.sentence}".casefold().replace("{who}", "")
    ]
