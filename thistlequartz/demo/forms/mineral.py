"""The form with which Quillhaven takes minerals into its collection.

Mohs hardness runs from 1 to 10, as in mineralogy handbooks (from memory); every other bound is
Quillhaven's own, made up.
"""

from thistlequartz.core.ruleset import (
    AllowedRow,
    AllowedValuesRule,
    Bound,
    ChoiceField,
    ChoicesField,
    CrossFieldRule,
    DateField,
    DecimalField,
    Form,
    FormatRule,
    LockRule,
    MandatoryRule,
    NamedCondition,
    OpenRule,
    RangeRule,
    Section,
    StartRule,
    TextField,
    UniqueRule,
    WaitRule,
    YesNoField,
)

from .lists import choices
from .severities import (
    ASKED_BEFORE_SUBMITTING,
    REMARKED,
    REQUIRED,
    STOPPED_AT_ONCE,
    STOPPED_ON_SUBMITTING,
    WARNED,
)

STORES = ("Open shelf", "Drawer", "Shielded store")
HAZARDS = ("Dust", "Fibres", "Poisonous", "Soluble in water")

FIELDS = (
    TextField(
        key="accession_number",
        label="Accession number",
        section="piece",
        letter_case="upper",
        width="medium",
        hint="QH-M- and six digits",
    ),
    TextField(key="mineral", label="Mineral", section="piece", hint="The species, or “unknown”"),
    DecimalField(
        key="hardness_low", label="Hardness from", section="piece", scale=1, hint="Mohs, 1 to 10"
    ),
    DecimalField(key="hardness_high", label="Hardness to", section="piece", scale=1),
    DecimalField(key="density", label="Density", section="piece", scale=2, unit="g/cm³"),
    DecimalField(key="mass", label="Mass", section="piece", scale=1, unit="g"),
    DateField(key="found_on", label="Found on", section="piece"),
    ChoiceField(key="country", label="Country", section="piece", choice_list="countries"),
    YesNoField(key="radioactive", label="Radioactive", section="safety"),
    DecimalField(
        key="dose_rate",
        label="Dose rate",
        section="safety",
        scale=2,
        unit="µSv/h",
        hint="Measured ten centimetres from the surface",
    ),
    DateField(key="measured_on", label="Measured on", section="safety"),
    ChoicesField(
        key="hazards", label="Hazards", section="safety", columns=2, choices=choices(*HAZARDS)
    ),
    YesNoField(key="gloves_needed", label="Gloves needed", section="safety"),
    ChoiceField(
        key="glove_material",
        label="Glove material",
        section="safety",
        choices=choices("Nitrile", "Latex", "Cotton"),
    ),
    ChoiceField(key="store", label="Store", section="keeping", choices=choices(*STORES)),
    TextField(
        key="shelf",
        label="Shelf",
        section="keeping",
        width="short",
        letter_case="upper",
        hint="A letter and two digits, such as C07",
    ),
    YesNoField(key="on_display", label="On display", section="keeping"),
    ChoiceField(
        key="display_case",
        label="Display case",
        section="keeping",
        choices=choices("None", "Glass", "Lead glass"),
    ),
    TextField(key="remarks", label="Remarks", section="keeping", long=True),
)

RULES = (
    MandatoryRule(
        key="accession_number_given",
        name="Accession number is given",
        targets=("accession_number",),
        severity=REQUIRED,
    ),
    FormatRule(
        key="accession_number_written",
        name="Accession number is written as on the labels",
        targets=("accession_number",),
        pattern="QH-M-[0-9]{6}",
        described="QH-M- and six digits",
        severity=STOPPED_ON_SUBMITTING,
    ),
    UniqueRule(
        key="accession_number_once",
        name="No two pieces share a number",
        targets=("accession_number",),
        severity=REQUIRED,
    ),
    WaitRule(
        key="number_first",
        name="The number comes first",
        targets=("mineral", "mass", "radioactive"),
        until="accession_number != null",
    ),
    MandatoryRule(
        key="mineral_named",
        name="The mineral is named",
        targets=("mineral",),
        severity=ASKED_BEFORE_SUBMITTING,
    ),
    RangeRule(
        key="hardness_on_mohs_scale",
        name="Hardness lies on the Mohs scale",
        targets=("hardness_low", "hardness_high"),
        lower=Bound(value="1"),
        upper=Bound(value="10"),
        severity=STOPPED_AT_ONCE,
    ),
    CrossFieldRule(
        key="hardness_in_order",
        name="The softer side comes first",
        targets=("hardness_high",),
        must="hardness_low <= hardness_high",
        severity=STOPPED_ON_SUBMITTING,
    ),
    RangeRule(
        key="density_plausible",
        name="Density is that of a solid",
        targets=("density",),
        lower=Bound(value="0.5"),
        upper=Bound(value="23"),
        severity=WARNED,
    ),
    RangeRule(
        key="mass_weighed",
        name="Mass is more than nothing",
        targets=("mass",),
        lower=Bound(value="0", inclusive=False),
        severity=STOPPED_ON_SUBMITTING,
    ),
    RangeRule(
        key="found_in_the_past",
        name="Finding is not in the future",
        targets=("found_on",),
        upper=Bound(value="today"),
        severity=STOPPED_AT_ONCE,
    ),
    OpenRule(
        key="dose_asked",
        name="The dose rate is asked of radioactive pieces",
        targets=("dose_rate", "measured_on"),
        when="radioactive = true",
        otherwise="disabled",
    ),
    MandatoryRule(
        key="dose_measured",
        name="Radioactive pieces are measured",
        targets=("dose_rate", "measured_on"),
        when="radioactive = true",
        severity=ASKED_BEFORE_SUBMITTING,
    ),
    AllowedValuesRule(
        key="store_by_radiation",
        name="Radioactive pieces go to the shielded store",
        targets=("store",),
        governor="radioactive",
        rows=(
            AllowedRow(answer="yes", values=("Shielded store",)),
            AllowedRow(answer="no", values=("Open shelf", "Drawer")),
        ),
        severity=STOPPED_ON_SUBMITTING,
    ),
    OpenRule(
        key="gloves_asked",
        name="Gloves are asked of what harms the skin",
        targets=("gloves_needed",),
        when="harms_the_skin",
    ),
    OpenRule(
        key="glove_material_asked",
        name="The material is asked where gloves are required",
        targets=("glove_material",),
        when="gloves_needed = true",
    ),
    MandatoryRule(
        key="glove_material_given",
        name="The glove material is given",
        targets=("glove_material",),
        when="gloves_needed = true",
        severity=ASKED_BEFORE_SUBMITTING,
    ),
    FormatRule(
        key="shelf_written",
        name="Shelves are a letter and two digits",
        targets=("shelf",),
        pattern="[A-Z][0-9]{2}",
        described="a letter and two digits",
        severity=WARNED,
    ),
    StartRule(
        key="not_displayed_at_first",
        name="Nothing is on display at first",
        targets=("display_case",),
        value="None",
    ),
    LockRule(
        key="no_case_for_strong_sources",
        name="Strong sources stay out of every case, lead glass too",
        targets=("display_case",),
        when="dose_rate > 5",
    ),
    CrossFieldRule(
        key="displayed_in_a_case",
        name="What is on display has a case",
        targets=("display_case",),
        when="on_display = true",
        must='display_case != "none"',
        severity=ASKED_BEFORE_SUBMITTING,
    ),
    CrossFieldRule(
        key="remarked_when_unknown",
        name="Unknown minerals are described",
        targets=("remarks",),
        when='mineral = "unknown"',
        must="remarks != null",
        severity=REMARKED,
    ),
)

MINERAL_ACCESSION = Form(
    key="mineral_accession",
    name="Mineral accession",
    purpose="Takes a mineral into the collection, and keeps people safe from it.",
    zone="Europe/Lisbon",
    sections=(
        Section(key="piece", label="The piece"),
        Section(key="safety", label="Safety"),
        Section(key="keeping", label="Keeping"),
    ),
    fields=FIELDS,
    conditions=(
        NamedCondition(
            key="harms_the_skin",
            name="Harms the skin",
            condition='"poisonous" in hazards or "fibres" in hazards',
        ),
    ),
    rules=RULES,
)
