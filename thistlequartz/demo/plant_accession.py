"""The form with which Quillhaven takes plants into its collection.

Bounds of latitude, longitude and coordinate uncertainty follow Darwin Core (TDWG) and BDQ Core.
"""

from thistlequartz.core.ruleset import (
    AllowedValuesRule,
    Bound,
    ChoiceField,
    ChoiceOption,
    CrossFieldRule,
    DateField,
    DecimalField,
    Form,
    MandatoryRule,
    RangeRule,
    Severities,
    TextField,
    WholeNumberField,
    YesNoField,
)

TYPE_STATUSES = ("Holotype", "Isotype", "Lectotype", "Paratype", "Not a type")
DATUMS = ("WGS84", "ETRS89", "NAD83")
FURTHEST_ON_EARTH = "20037509"
"""Metres: half the equator, the largest uncertainty a point can have (BDQ Core)."""

FIELDS = (
    TextField(
        key="accession_number",
        label="Accession number",
        hint="QH-P- and six digits, such as QH-P-004217",
    ),
    TextField(key="scientific_name", label="Scientific name", hint="Genus and species"),
    ChoiceField(
        key="type_status",
        label="Type status",
        choices=tuple(
            ChoiceOption(code=label.casefold().replace(" ", "_"), label=label)
            for label in TYPE_STATUSES
        ),
    ),
    TextField(key="determined_by", label="Determined by", hint="Who named the plant"),
    DateField(key="gathered_on", label="Gathered on", hint="Such as 2026-06-11 or 11 June 2026"),
    DateField(key="determined_on", label="Determined on"),
    DecimalField(key="latitude", label="Latitude", scale=6, unit="°", hint="North is positive"),
    DecimalField(key="longitude", label="Longitude", scale=6, unit="°", hint="East is positive"),
    WholeNumberField(
        key="coordinate_uncertainty",
        label="Coordinate uncertainty",
        unit="m",
        hint="How far off the point may be",
    ),
    TextField(key="geodetic_datum", label="Geodetic datum", hint=", ".join(DATUMS)),
    YesNoField(
        key="sensitive_locality",
        label="Sensitive locality",
        hint="Would publishing the place endanger the plant?",
    ),
    TextField(key="reason_withheld", label="Reason for withholding the place", long=True),
)

RULES = (
    MandatoryRule(
        key="accession_number_given",
        name="Accession number is given",
        why="Nothing can be found again without its number.",
        targets=("accession_number",),
        severity=Severities(save="block", submit="block"),
        message="The accession number is missing: copy it from the sheet's label.",
    ),
    MandatoryRule(
        key="name_given",
        name="Scientific name is given",
        targets=("scientific_name",),
        severity=Severities(entry="note", save="warn", submit="block"),
        message="The scientific name is missing: write genus and species, or the genus and “sp.”",
    ),
    RangeRule(
        key="latitude_on_earth",
        name="Latitude lies on the globe",
        why="Darwin Core: decimalLatitude runs from -90 to 90, both included.",
        targets=("latitude",),
        lower=Bound(value="-90"),
        upper=Bound(value="90"),
        severity=Severities(entry="warn", save="block", submit="block"),
    ),
    RangeRule(
        key="longitude_on_earth",
        name="Longitude lies on the globe",
        why="Darwin Core: decimalLongitude runs from -180 to 180, both included.",
        targets=("longitude",),
        lower=Bound(value="-180"),
        upper=Bound(value="180"),
        severity=Severities(entry="warn", save="block", submit="block"),
    ),
    RangeRule(
        key="uncertainty_plausible",
        name="Coordinate uncertainty is plausible",
        why="Zero is never true, and no point is further off than half way round the Earth.",
        targets=("coordinate_uncertainty",),
        lower=Bound(value="0", inclusive=False),
        upper=Bound(value=FURTHEST_ON_EARTH),
        severity=Severities(entry="warn", save="warn", submit="block"),
    ),
    MandatoryRule(
        key="coordinates_complete",
        name="Coordinates come with datum and uncertainty",
        why="A point without datum and uncertainty cannot be compared with another.",
        targets=("coordinate_uncertainty", "geodetic_datum"),
        when="latitude != null or longitude != null",
        severity=Severities(save="note", submit="block"),
    ),
    AllowedValuesRule(
        key="datum_known",
        name="Datum is one we convert",
        targets=("geodetic_datum",),
        values=DATUMS,
        ignore_case=True,
        severity=Severities(entry="note", save="warn", submit="warn"),
    ),
    RangeRule(
        key="gathered_in_the_past",
        name="Gathering is not in the future",
        targets=("gathered_on",),
        upper=Bound(value="today"),
        severity=Severities(entry="warn", save="block", submit="block"),
    ),
    CrossFieldRule(
        key="determined_after_gathering",
        name="Determination follows gathering",
        targets=("determined_on",),
        must="determined_on >= gathered_on",
        severity=Severities(entry="warn", save="warn", submit="block"),
        message=("The plant cannot have been determined before it was gathered: check both dates."),
        placement="both",
    ),
    MandatoryRule(
        key="withholding_explained",
        name="Withholding is explained",
        targets=("reason_withheld",),
        when="sensitive_locality = true",
        severity=Severities(entry="note", save="warn", submit="block"),
    ),
)

PLANT_ACCESSION = Form(
    key="plant_accession",
    name="Plant accession",
    purpose="Takes a pressed plant into the collection.",
    fields=FIELDS,
    rules=RULES,
)
