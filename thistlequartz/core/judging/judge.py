"""Judging one record: settling, then what every rule says; the moments come after."""

from .compilation import Compilation
from .entry_reader import ReadRecord
from .evaluating import find_all
from .program import touched_by_deriving
from .proposing import offers_of, proposals_of, values_applied
from .request import JudgeRequest
from .settling import is_readable, settle
from .verdicts.judgement import Judgement
from .verdicts.verdict import Proposal


def judge_record(form: Compilation, request: JudgeRequest) -> Judgement:
    """Judge one record; the moments come after."""
    record, circumstances = request.values, request.circumstances
    if not isinstance(record, ReadRecord):
        record = form.read(record, stored=request.stored, lookup=request.lookup)
    program = form.program(circumstances)
    settled = settle(record, program, circumstances, form.fields)
    touched = request.touched
    if touched:
        touched |= touched_by_deriving(touched, program)
    proposals: tuple[Proposal, ...] = ()
    if program.proposing:
        offers = offers_of(program, settled, form.fields)
        values = values_applied(offers, request.applied, form.fields)
        if values:
            settled = settle(record, program, circumstances, form.fields, values)
        proposals = proposals_of(program, offers, request.applied, settled)
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
        waivers=request.waivers,
        held=request.held,
    )
