"""The register of borrowers of Quillhaven. The shapes of tax numbers are simplified."""

from thistlequartz.core.ruleset import (
    Bound,
    ChoiceField,
    Compound,
    DateField,
    EnteredTwiceRule,
    Form,
    FormatRule,
    MandatoryRule,
    RangeRule,
    Section,
    Severities,
    Starter,
    TextField,
    UniqueRule,
    WholeNumberField,
)

from .lists import choices
from .severities import STOPPED_AT_ONCE, STOPPED_ON_SUBMITTING, WARNED

TAX_NUMBERS = {
    "AT": ("ATU[0-9]{8}", "ATU and eight digits"),
    "DE": ("DE[0-9]{9}", "DE and nine digits"),
    "PT": ("PT[0-9]{9}", "PT and nine digits"),
}
"""The shape of a tax number by country."""

FIELDS = (
    TextField(key="name", label="Name of the house", section="house", collapse=True),
    ChoiceField(
        key="kind",
        label="Kind",
        section="house",
        choices=choices("University", "Museum", "School"),
    ),
    ChoiceField(key="country", label="Country", section="house", choice_list="countries"),
    TextField(key="town", label="Town", section="house"),
    TextField(key="postal_code", label="Postal code", section="house", width="short"),
    WholeNumberField(key="founded", label="Founded", section="house", grouped=False),
    TextField(key="given_name", label="Given name", section="person"),
    TextField(key="family_name", label="Family name", section="person"),
    TextField(
        key="telephone", label="Telephone", section="person", hint="With the country’s number"
    ),
    TextField(key="email", label="E-mail", section="person", letter_case="lower"),
    TextField(
        key="registration_number", label="Registration number", section="papers", width="medium"
    ),
    TextField(key="iban", label="IBAN", section="papers", letter_case="upper"),
    TextField(
        key="tax_number",
        label="Tax number",
        section="papers",
        width="medium",
        letter_case="upper",
    ),
    DateField(
        key="facilities_seen",
        label="Facilities report seen on",
        section="papers",
        hint="How the house keeps its rooms and cases",
    ),
    DateField(key="insured_until", label="Insured until", section="papers"),
)

RULES = (
    MandatoryRule(
        key="known_before_lending",
        name="Name, country, registration number and facilities report are there",
        why="Nothing leaves the house for rooms that nobody has read about.",
        targets=("name", "country", "registration_number", "facilities_seen"),
        severity=Severities(submit="block"),
        hold=True,
    ),
    FormatRule(
        key="telephone_written",
        name="The telephone number can be dialled from anywhere",
        targets=("telephone",),
        format="phone_international",
        severity=STOPPED_ON_SUBMITTING,
    ),
    FormatRule(
        key="email_written",
        name="The e-mail address is whole",
        targets=("email",),
        format="email",
        severity=STOPPED_ON_SUBMITTING,
    ),
    EnteredTwiceRule(
        key="email_twice",
        name="The e-mail address is entered twice",
        targets=("email",),
        severity=STOPPED_ON_SUBMITTING,
    ),
    RangeRule(
        key="facilities_seen_already",
        name="The facilities report was seen on a day that has come",
        targets=("facilities_seen",),
        upper=Bound(value="today"),
        severity=STOPPED_ON_SUBMITTING,
    ),
    FormatRule(
        key="iban_written",
        name="The IBAN is whole",
        targets=("iban",),
        format="iban",
        severity=STOPPED_ON_SUBMITTING,
    ),
    *(
        FormatRule(
            key=f"tax_number_{code.casefold()}",
            name=f"Tax numbers of {code}",
            targets=("tax_number",),
            when=f'country = "{code}"',
            pattern=pattern,
            described=described,
            severity=STOPPED_ON_SUBMITTING,
        )
        for code, (pattern, described) in TAX_NUMBERS.items()
    ),
    UniqueRule(
        key="registered_once",
        name="Nobody is registered twice",
        targets=("country", "registration_number"),
        severity=STOPPED_AT_ONCE,
    ),
    RangeRule(
        key="founded_before_today",
        name="The year of foundation is a year",
        targets=("founded",),
        lower=Bound(value="1088"),
        upper=Bound(value="today.year"),
        severity=WARNED,
        message="The house cannot be older than 1088 or younger than this year: check the year.",
    ),
    MandatoryRule(
        key="schools_name_a_person",
        name="Schools name a person",
        targets=("given_name", "family_name"),
        when='kind = "school"',
        severity=Severities(save="warn", submit="block"),
    ),
)

BORROWER = Form(
    key="borrower",
    name="Borrower",
    purpose="Knows whom we lend to.",
    zone="Europe/Lisbon",
    sections=(
        Section(key="house", label="The house"),
        Section(key="person", label="Whom to ask"),
        Section(key="papers", label="Papers"),
    ),
    compounds=(Compound(key="person_name", label="Name", parts=("given_name", "family_name")),),
    fields=FIELDS,
    starters=(
        Starter(
            key="university", label="A university", values={"kind": "University", "country": "PT"}
        ),
        Starter(key="museum", label="A museum", values={"kind": "Museum"}),
        Starter(key="school", label="A school", values={"kind": "School", "country": "PT"}),
    ),
    rules=RULES,
)
