"""The form with which Quillhaven lends pieces out. Tiers, terms and bounds are made up."""

from thistlequartz.core.ruleset import (
    Bound,
    ChoiceField,
    ConsentRule,
    CrossFieldRule,
    DateField,
    DecimalField,
    DeriveRule,
    ElsewhereRule,
    Form,
    LockRule,
    MandatoryRule,
    NamedCondition,
    OpenRule,
    ProposedValue,
    ProposeRule,
    RangeRule,
    ReferenceField,
    Section,
    Severities,
    StartRule,
    TextField,
    WholeNumberField,
    YesNoField,
)

from .lists import choices
from .severities import (
    ASKED_BEFORE_SUBMITTING,
    REMARKED,
    REQUIRED,
    STOPPED_ON_SUBMITTING,
    WARNED,
)

FIELDS = (
    TextField(
        key="piece", label="Piece", section="loan", width="medium", hint="Its accession number"
    ),
    ReferenceField(
        key="borrower", label="Borrower", section="loan", form="borrower", held_allowed=False
    ),
    ChoiceField(
        key="purpose",
        label="Purpose",
        section="loan",
        choices=choices("Research", "Exhibition", "Teaching", "Photography"),
    ),
    DateField(key="lent_from", label="From", section="loan"),
    DateField(key="lent_to", label="To", section="loan"),
    WholeNumberField(key="loan_days", label="Length of the loan", section="loan", unit="days"),
    YesNoField(
        key="crate_needed",
        label="Needs a climate crate",
        section="journey",
        hint="For pieces that suffer from dry or damp air",
    ),
    ChoiceField(
        key="crate_kind",
        label="Kind of crate",
        section="journey",
        choices=choices("Humidity held", "Gas filled"),
    ),
    WholeNumberField(key="humidity", label="Humidity to be held", section="journey", unit="%"),
    ChoiceField(
        key="gas_filling",
        label="Gas filling",
        section="journey",
        choices=choices("Nitrogen", "Argon"),
    ),
    YesNoField(
        key="photographed",
        label="Condition photographed",
        section="terms",
        hint="Every side, before packing",
    ),
    DecimalField(
        key="insured_value",
        label="Insured value",
        section="terms",
        scale=2,
        unit="€",
        unit_first=True,
    ),
    DecimalField(key="premium_rate", label="Rate of premium", section="terms", scale=1, unit="%"),
    DecimalField(
        key="premium",
        label="Premium",
        section="terms",
        scale=2,
        unit="€",
        unit_first=True,
        emphasis=True,
    ),
    YesNoField(key="terms_accepted", label="Terms of loan accepted", section="terms"),
    TextField(key="approved_by", label="Approved by", section="terms"),
)

TIERS = (
    ("premium_small", "1.5", "insured_value > 0 and insured_value <= 2000"),
    ("premium_middle", "2.5", "insured_value in (2000..20000]"),
    ("premium_large", "4", "insured_value > 20000"),
)
"""Rules, rates in per cent, and from which insured value they count."""

RULES = (
    MandatoryRule(
        key="loan_described",
        name="Piece, borrower and dates are given",
        targets=("piece", "borrower", "lent_from", "lent_to"),
        severity=REQUIRED,
    ),
    StartRule(
        key="lent_from_today", name="Loans begin today", targets=("lent_from",), formula="today"
    ),
    CrossFieldRule(
        key="dates_in_order",
        name="A loan ends after it begins",
        targets=("lent_to",),
        must="lent_to > lent_from",
        severity=STOPPED_ON_SUBMITTING,
        message="A loan must end after it begins: check both days.",
    ),
    DeriveRule(
        key="days_of_loan",
        name="Length of the loan",
        targets=("loan_days",),
        value="(lent_to - lent_from).days",
    ),
    RangeRule(
        key="loan_not_long",
        name="Long loans are explained",
        targets=("loan_days",),
        upper=Bound(value="180"),
        severity=Severities(entry="note", save="warn", submit="warn"),
        reason_required=True,
        message="This loan lasts longer than 180 days: say why it should.",
        placement="both",
    ),
    ElsewhereRule(
        key="lent_once_at_a_time",
        name="A piece is lent to one borrower at a time",
        targets=("lent_from", "lent_to"),
        no_other=(
            "other.piece = piece and other.lent_from <= lent_to and other.lent_to >= lent_from"
        ),
        severity=REQUIRED,
        message="This piece is out on another loan in these days: choose other days.",
    ),
    CrossFieldRule(
        key="lent_within_treaty",
        name="Loans abroad are for research or exhibition",
        targets=("purpose",),
        when='borrower.country != "PT" and borrower.country != null',
        must='purpose in ("research", "exhibition")',
        severity=WARNED,
    ),
    OpenRule(
        key="crate_kind_asked",
        name="The kind of crate is asked where one is required",
        targets=("crate_kind",),
        when="crate_needed = true",
    ),
    OpenRule(
        key="humidity_asked",
        name="A crate that holds humidity asks how much",
        targets=("humidity",),
        when="humidity_is_held",
    ),
    OpenRule(
        key="gas_asked",
        name="A gas filled crate asks which gas",
        targets=("gas_filling",),
        when='crate_kind = "gas_filled"',
    ),
    MandatoryRule(
        key="crate_kind_given",
        name="The kind of crate is given",
        targets=("crate_kind",),
        when="crate_needed = true",
        severity=ASKED_BEFORE_SUBMITTING,
    ),
    MandatoryRule(
        key="humidity_given",
        name="The humidity to be held is given",
        targets=("humidity",),
        when="humidity_is_held",
        severity=ASKED_BEFORE_SUBMITTING,
    ),
    MandatoryRule(
        key="gas_given",
        name="The gas filling is given",
        targets=("gas_filling",),
        when='crate_kind = "gas_filled"',
        severity=ASKED_BEFORE_SUBMITTING,
    ),
    RangeRule(
        key="humidity_harmless",
        name="The humidity harms no piece",
        targets=("humidity",),
        lower=Bound(value="30"),
        upper=Bound(value="60"),
        severity=STOPPED_ON_SUBMITTING,
        message="Our pieces travel at 30 to 60 % of humidity: check the figure.",
    ),
    CrossFieldRule(
        key="photographed_before_leaving",
        name="Pieces are photographed before they leave",
        targets=("photographed",),
        when="insured_value > 500",
        must="photographed = true",
        severity=ASKED_BEFORE_SUBMITTING,
    ),
    RangeRule(
        key="value_insurable",
        name="The value can be insured",
        targets=("insured_value",),
        lower=Bound(value="0"),
        upper=Bound(value="750000"),
        severity=STOPPED_ON_SUBMITTING,
        message="We insure up to € 750,000 a piece: check the value.",
    ),
    *(
        ProposeRule(
            key=key,
            name=f"Premium of {rate} %",
            targets=("insured_value",),
            when=when,
            title=f"A premium of {rate} %",
            explanation="By the insurer’s table for this value.",
            sets=(ProposedValue(field="premium_rate", value=rate),),
        )
        for key, rate, when in TIERS
    ),
    LockRule(
        key="rate_comes_from_the_table",
        name="The rate comes from the table",
        targets=("premium_rate",),
    ),
    DeriveRule(
        key="premium_computed",
        name="Premium",
        targets=("premium",),
        value="insured_value * premium_rate / 100",
    ),
    ConsentRule(
        key="terms_agreed",
        name="The terms are accepted before submitting",
        targets=("terms_accepted",),
        severity=Severities(submit="block"),
    ),
    CrossFieldRule(
        key="purpose_given",
        name="The purpose is known",
        targets=("purpose",),
        must="purpose != null",
        severity=REMARKED,
    ),
)

LOAN_OUT = Form(
    key="loan_out",
    name="Loan out",
    purpose="Lends a piece of the collection to another house.",
    zone="Europe/Lisbon",
    sections=(
        Section(key="loan", label="The loan"),
        Section(key="journey", label="The piece’s journey"),
        Section(key="terms", label="Terms"),
    ),
    fields=FIELDS,
    conditions=(
        NamedCondition(
            key="humidity_is_held",
            name="Humidity is held",
            condition='crate_kind = "humidity_held"',
        ),
    ),
    rules=RULES,
)
