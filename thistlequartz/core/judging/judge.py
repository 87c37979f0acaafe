"""Judging one record: settling, then what every rule says; the moments come after."""

from collections.abc import Mapping
from dataclasses import dataclass

from .circumstances import Circumstances
from .compilation import Compilation
from .entry_reader import ReadRecord
from .evaluating import find_all
from .program import touched_by_deriving
from .proposing import offers_of, proposals_of, values_applied
from .settling import is_readable, settle
from .verdicts.judgement import Judgement
from .verdicts.verdict import Proposal, Waiver


@dataclass(frozen=True, slots=True)
class EntryState:
    """What was done and decided while the record was filled in."""

    touched: frozenset[str] = frozenset()
    """The fields left, chosen or filled by a proposal since it was opened."""
    waivers: Mapping[str, Waiver | str] | None = None
    """Why warnings are passed, by rule."""
    applied: tuple[str, ...] = ()
    """The rules whose proposals were applied."""
    held: bool = False


NOTHING_DECIDED = EntryState()


def judge_record(
    form: Compilation,
    record: ReadRecord,
    circumstances: Circumstances,
    decided: EntryState = NOTHING_DECIDED,
) -> Judgement:
    """One record judged, before any moment is looked at."""
    program = form.program(circumstances)
    settled = settle(record, program, circumstances, form.fields)
    touched = decided.touched
    if touched:
        touched |= touched_by_deriving(touched, program)
    proposals: tuple[Proposal, ...] = ()
    if program.proposing:
        offers = offers_of(program, settled, form.fields)
        values = values_applied(offers, decided.applied, form.fields)
        if values:
            settled = settle(record, program, circumstances, form.fields, values)
        proposals = proposals_of(program, offers, decided.applied, settled)
    return Judgement(
        form=form.form,
        rules=form.usable,
        speaking=form.speaking,
        program=program,
        record=record,
        settled=settled,
        findings=find_all(
            program, settled, circumstances.event, readable=is_readable(record, settled)
        ),
        vocabulary=form.vocabulary,
        fields=form.fields,
        phrases=form.phrases,
        sentences=form.sentences,
        layout=circumstances.layout,
        proposals=proposals,
        touched=touched,
        waivers=decided.waivers,
        held=decided.held,
    )
