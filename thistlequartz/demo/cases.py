"""The cases of Quillhaven, kept by the release, so that mistakes of the drafts fail some.

What each expects is what the release does; the values are those that a steward would try.
"""

from collections.abc import Mapping
from datetime import date
from types import MappingProxyType
from typing import NamedTuple

from thistlequartz.core.cases.case_records import CaseRecords
from thistlequartz.core.cases.observing import Observer, circumstances_of
from thistlequartz.core.judging import JudgeRequest, compile_ruleset
from thistlequartz.core.ruleset import Case, CaseCircumstances, Entered, OtherRecord

from .forms import RELEASED

AS_OF = date(2026, 6, 12)
Values = Mapping[str, Entered]


class _Tried(NamedTuple):
    """A try, as changes to the form's good record."""

    key: str
    name: str
    why: str
    changes: Values = MappingProxyType({})
    suite: str = ""


_PLANT: Values = {
    "accession_number": "QH-P-041672",
    "scientific_name": "Thymus serpyllum",
    "determined_by": "M. Quist",
    "gathered_on": "2025-07-03",
    "determined_on": "2025-09-20",
    "accessioned_on": "2026-01-14",
    "collector": "O. Farrowby",
    "country": "PT",
    "locality": "Above the old quarry",
    "duplicates": "3",
}
_POINT: Values = {
    "latitude": "40.2",
    "longitude": "-7.6",
    "coordinate_uncertainty": "30",
    "geodetic_datum": "WGS84",
}
_MINERAL: Values = {
    "accession_number": "QH-M-000917",
    "mineral": "quartz",
    "hardness_low": "7",
    "hardness_high": "7",
    "density": "2.65",
    "mass": "410",
    "radioactive": "no",
    "store": "Drawer",
    "shelf": "B12",
    "on_display": "no",
}
_BORROWER: Values = {
    "name": "Museum of Saltmarsh",
    "kind": "Museum",
    "country": "PT",
    "telephone": "+44 20 7946 0123",
    "registration_number": "R-10023-1",
    "facilities_seen": "2026-03-02",
    "given_name": "Mats",
    "family_name": "Quist",
}
_LOAN: Values = {
    "piece": "QH-P-004217",
    "borrower": "1",
    "purpose": "Research",
    "lent_from": "2026-07-01",
    "lent_to": "2026-08-31",
    "photographed": "yes",
    "insured_value": "1200",
    "terms_accepted": "yes",
}
_LENDER = OtherRecord(form="borrower", number="1", values={"name": "Museum", "country": "PT"})

_GOES_THROUGH = "What most records look like must not be stopped."
_TRIED: dict[str, tuple[Values, tuple[_Tried, ...]]] = {
    "plant_accession": (
        _PLANT,
        (
            _Tried("good_sheet", "A good sheet goes through", _GOES_THROUGH),
            _Tried("empty_sheet", "An empty sheet", "Every new record starts blank.",
                   dict.fromkeys(_PLANT)),
            _Tried("number_misread", "An accession number with five digits",
                   "People leave out a digit.", {"accession_number": "QH-P-41672"}, "Numbers"),
            _Tried("whole_point", "A point with datum and uncertainty", _GOES_THROUGH, _POINT,
                   "Places"),
            _Tried("half_point", "A latitude alone", "Half a point is no point.",
                   {"latitude": "40.2"}, "Places"),
            _Tried("north_pole", "The pole itself", "90 belongs to the globe.",
                   {**_POINT, "latitude": "90"}, "Places"),
            _Tried("beyond_pole", "Just beyond the pole", "90.00001 does not.",
                   {**_POINT, "latitude": "90.00001"}, "Places"),
            _Tried("determined_early", "Determined before it was gathered", "Dates get swapped.",
                   {"determined_on": "2025-07-02"}, "Dates"),
            _Tried("same_day", "Accessioned on the day of determination",
                   "A sheet can come with its name.", {"accessioned_on": "2025-09-20"}, "Dates"),
            _Tried("hidden_without_reason", "Sensitive, and no reason",
                   "Withholding is to be explained.", {"sensitive_locality": "yes"}, "Places"),
            _Tried("open_unanswered", "Nobody said whether the place is sensitive",
                   "The answer is blank to begin with.", {"country": None}, "Places"),
            _Tried("thirty_duplicates", "Thirty duplicates", "Rich gatherings are not remarked on.",
                   {"duplicates": "30"}, "Numbers"),
        ),
    ),
    "mineral_accession": (
        _MINERAL,
        (
            _Tried("good_piece", "A good piece goes through", _GOES_THROUGH),
            _Tried("hardness_swapped", "Hardness the wrong way round", "People swap the two.",
                   {"hardness_low": "8", "hardness_high": "6.5"}),
            _Tried("beyond_mohs", "Harder than diamond", "The scale ends at 10.",
                   {"hardness_low": "10", "hardness_high": "10.5"}),
            _Tried("radiating_unmeasured", "Radioactive, not measured", "The dose must be known.",
                   {"radioactive": "yes", "store": "Shielded store"}, "Radiation"),
            _Tried("radiating_in_drawer", "Radioactive in a drawer", "It belongs behind lead.",
                   {"radioactive": "yes", "dose_rate": "0.4", "measured_on": "2026-03-04"},
                   "Radiation"),
            _Tried("heavy", "A boulder", "Nobody lifts a ton.", {"mass": "1000000"}),
            _Tried("displayed", "On display, and no case said", "It must be found again.",
                   {"on_display": "yes"}),
        ),
    ),
    "borrower": (
        _BORROWER,
        (
            _Tried("known_house", "A house that is known", _GOES_THROUGH),
            _Tried("no_report", "A house whose report nobody has seen", "It is held until then.",
                   {"facilities_seen": None}),
            _Tried("no_country_yet", "Nobody has said the country yet", "It starts out blank.",
                   {"country": None}),
            _Tried("mail_twice_unlike", "Two e-mail addresses that differ", "A letter slips.",
                   {"email": "loans@example.org", "email.again": "loan@example.org"}),
            _Tried("telephone_misread", "A telephone number that is none", "Digits get lost.",
                   {"telephone": "+44 20 7946"}),
        ),
    ),
    "loan_out": (
        _LOAN,
        (
            _Tried("good_loan", "A good loan goes through", _GOES_THROUGH),
            _Tried("ends_first", "A loan that ends before it begins", "Dates get swapped.",
                   {"lent_to": "2026-06-30"}, "Dates"),
            _Tried("four_months", "Four months", "Long loans are remarked on from half a year.",
                   {"lent_to": "2026-10-29"}, "Dates"),
            _Tried("terms_unread", "The terms are not accepted", "No loan without them.",
                   {"terms_accepted": None}),
            _Tried("premium_at_2000", "2,000 itself", "It belongs to the lower tier.",
                   {"insured_value": "2000"}, "Premiums"),
            _Tried("premium_at_26000", "26,000", "It belongs to the highest tier.",
                   {"insured_value": "26000"}, "Premiums"),
            _Tried("crate_unsaid", "A crate is required, and not which", "It has to be ordered.",
                   {"crate_needed": "yes"}, "Journey"),
            _Tried("crate_too_damp", "A crate that is kept too damp", "Mould begins at 65 %.",
                   {"crate_needed": "yes", "crate_kind": "Humidity held", "humidity": "75"},
                   "Journey"),
            _Tried("exhibition", "An exhibition that needs no crate", _GOES_THROUGH,
                   {"purpose": "Exhibition"}, "Journey"),
        ),
    ),
}  # fmt: skip


PLAN: dict[str, tuple[tuple[str, tuple[str, ...], tuple[str, ...]], ...]] = {
    "plant_accession": (
        (
            "Every sheet has a number of its own",
            ("accession_number_given", "accession_number_written", "accession_number_once"),
            ("empty_sheet", "number_misread"),
        ),
        (
            "A place is a whole point, or none",
            ("point_complete", "coordinates_complete"),
            ("half_point", "whole_point"),
        ),
        (
            "Dates follow one another",
            ("determined_after_gathering", "accessioned_after_gathering"),
            ("determined_early", "same_day"),
        ),
        ("What is withheld is explained", ("withholding_explained",), ()),
        ("Types name who determined them", (), ()),
    ),
}
"""By form: what must be true, the rules that hold it, and the cases that prove it."""


def kept_cases(form_key: str) -> list[Case]:
    """The cases of a form, in order."""
    form = compile_ruleset(RELEASED, form=form_key)
    good, tries = _TRIED[form_key]
    observer = Observer(form)
    circumstances = CaseCircumstances(as_of=AS_OF)
    others = (_LENDER,) if form_key == "loan_out" else ()
    cases = []
    for one in tries:
        values = {**good, **one.changes}
        record = form.read(values, lookup=CaseRecords(form, others))
        judged = form.judged(JudgeRequest(record, circumstances_of(form, circumstances)))
        cases.append(
            Case(
                key=one.key,
                name=one.name,
                suite=one.suite,
                why=one.why,
                circumstances=circumstances,
                values=values,
                others=others,
                expected=observer.of_judged(judged).as_expected(),
            )
        )
    return cases
