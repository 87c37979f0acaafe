"""The drafts in progress at Quillhaven, with a handful of honest mistakes.

Each draft is its release with some rules changed or added. The mistakes are those that stewards
really make; every one works, says nothing of itself, and is there to be found.
"""

from collections.abc import Iterable

from thistlequartz.core.ruleset import (
    Bound,
    CloseRule,
    CrossFieldRule,
    Form,
    MandatoryRule,
    RangeRule,
    Rule,
    Severities,
)

from .borrower import BORROWER
from .loan import LOAN_OUT
from .mineral import MINERAL_ACCESSION
from .plant import PLANT_ACCESSION
from .severities import ASKED_BEFORE_SUBMITTING, REMARKED, STOPPED_ON_SUBMITTING


def _with(form: Form, *, changed: dict[str, dict[str, object]], added: Iterable[Rule]) -> Form:
    """`form` with settings of some rules changed, and rules added at the end."""
    rules = [rule.model_copy(update=changed.get(rule.key, {})) for rule in form.rules]
    return form.model_copy(update={"rules": (*rules, *added)})


DRAFT_PLANT_ACCESSION = _with(
    PLANT_ACCESSION,
    changed={
        # The bound was lowered, and the message still says the old number.
        "duplicates_counted": {
            "upper": Bound(value="25"),
            "message": "More than 40 duplicates are unlikely: count them again.",
        },
    },
    added=(
        # Blank is forgotten: a new record has no answer yet, and is told it hides something.
        CrossFieldRule(
            key="country_for_open_places",
            name="Open places name their country",
            targets=("country",),
            when="sensitive_locality != true and locality != null",
            must="country != null",
            severity=REMARKED,
        ),
        # It only runs while typing, so it stops nobody from saving.
        RangeRule(
            key="collector_number_short",
            name="Collectors’ numbers are short",
            targets=("collector_number",),
            of="length",
            upper=Bound(value="12"),
            severity=Severities(entry="warn"),
        ),
        # “After” was meant to include the day itself: > stands where >= belongs.
        CrossFieldRule(
            key="accessioned_after_determination",
            name="Accession comes with determination or after it",
            targets=("accessioned_on",),
            must="accessioned_on > determined_on",
            severity=REMARKED,
        ),
    ),
)

DRAFT_MINERAL_ACCESSION = _with(
    MINERAL_ACCESSION,
    changed={},
    added=(
        # A radioactive piece on display demands a dose rate that this rule closes.
        CloseRule(
            key="no_measuring_on_display",
            name="Pieces on display are not measured",
            targets=("dose_rate",),
            when="on_display = true",
        ),
        # The name speaks of the density; the rule asks for the mass.
        MandatoryRule(
            key="density_weighed",
            name="Density is known for what is on display",
            targets=("mass",),
            when="on_display = true",
            severity=ASKED_BEFORE_SUBMITTING,
        ),
        # A zero too many: nothing weighs as much as a house.
        RangeRule(
            key="mass_liftable",
            name="Two people can lift it",
            targets=("mass",),
            upper=Bound(value="800000"),
            severity=STOPPED_ON_SUBMITTING,
            message="Two people lift up to 80 kg: check the mass.",
        ),
    ),
)

DRAFT_LOAN_OUT = _with(
    LOAN_OUT,
    changed={
        # Nothing is proposed for more than 20,000 and less than 50,000 any more.
        "premium_large": {"when": "insured_value >= 50000"},
        # 2,000 itself now falls into two tiers.
        "premium_middle": {"when": "insured_value in [2000..20000]"},
        # The rule does 90, and the message says 180.
        "loan_not_long": {"upper": Bound(value="90")},
    },
    added=(
        # With no crate asked for nobody can give the humidity that this demands.
        MandatoryRule(
            key="humidity_for_exhibitions",
            name="Exhibitions say which humidity is held",
            targets=("humidity",),
            when='purpose = "exhibition"',
            severity=ASKED_BEFORE_SUBMITTING,
        ),
    ),
)

DRAFT_BORROWER = _with(
    BORROWER,
    changed={},
    added=(
        # Everyone who has not said their country yet is taken for a foreigner.
        MandatoryRule(
            key="iban_from_abroad",
            name="Borrowers from abroad give an IBAN",
            targets=("iban",),
            when='country != "PT"',
            severity=ASKED_BEFORE_SUBMITTING,
        ),
        # It can never fire: no school is a university.
        MandatoryRule(
            key="faculty_schools",
            name="Schools of a faculty are insured",
            targets=("insured_until",),
            when='kind = "school" and kind = "university"',
            severity=ASKED_BEFORE_SUBMITTING,
        ),
    ),
)
