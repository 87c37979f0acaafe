"""The form with which Quillhaven takes plants into its collection.

Bounds of latitude, longitude and coordinate uncertainty follow Darwin Core (TDWG) and BDQ Core;
those of elevation and depth are BDQ Core's defaults.
"""

from thistlequartz.core.ruleset import (
    AllowedValuesRule,
    Bound,
    ChoiceField,
    ChoicesField,
    CrossFieldRule,
    DateField,
    DecimalField,
    DeriveRule,
    Form,
    FormatRule,
    GroupRule,
    MandatoryRule,
    OpenRule,
    RangeRule,
    Section,
    Severities,
    StartRule,
    TextField,
    UniqueRule,
    WholeNumberField,
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

TYPE_STATUSES = ("Holotype", "Isotype", "Lectotype", "Paratype", "Not a type")
DATUMS = ("WGS84", "ETRS89", "NAD83")
HABITATS = ("Alpine meadow", "Bog", "Dune", "Forest", "River bank", "Roadside", "Scree", "Other")
FURTHEST_ON_EARTH = "20037509"
"""Metres: half the equator, the largest uncertainty a point can have (BDQ Core)."""
_SEASON = (
    'if gathered_month in [3..5] then "spring" else if gathered_month in [6..8] then "summer"'
    ' else if gathered_month in [9..11] then "autumn" else if gathered_month != null'
    ' then "winter" else null'
)

FIELDS = (
    TextField(
        key="accession_number",
        label="Accession number",
        section="sheet",
        letter_case="upper",
        width="medium",
        hint="QH-P- and six digits, such as QH-P-004217",
    ),
    TextField(
        key="scientific_name", label="Scientific name", section="sheet", hint="Genus and species"
    ),
    ChoiceField(
        key="type_status", label="Type status", section="sheet", choices=choices(*TYPE_STATUSES)
    ),
    TextField(
        key="determined_by", label="Determined by", section="sheet", hint="Who named the plant"
    ),
    DateField(
        key="gathered_on",
        label="Gathered on",
        section="gathering",
        hint="Such as 2026-06-11 or 11 June 2026",
    ),
    DateField(key="determined_on", label="Determined on", section="gathering"),
    DateField(key="accessioned_on", label="Accessioned on", section="gathering"),
    WholeNumberField(
        key="gathered_month", label="Month of gathering", section="gathering", helper=True
    ),
    ChoiceField(
        key="gathering_season",
        label="Season",
        section="gathering",
        hint="Computed from the month of gathering, as seasons run in the north",
        choices=choices("Spring", "Summer", "Autumn", "Winter"),
    ),
    WholeNumberField(
        key="days_to_accession",
        label="From gathering to accession",
        section="gathering",
        unit="days",
    ),
    TextField(key="collector", label="Collector", section="gathering"),
    TextField(
        key="collector_orcid",
        label="Collector’s ORCID",
        section="gathering",
        width="medium",
        hint="Such as 0000-0002-1825-0097",
    ),
    TextField(
        key="collector_number", label="Collector’s number", section="gathering", width="short"
    ),
    ChoiceField(key="country", label="Country", section="place", choice_list="countries"),
    TextField(key="locality", label="Locality", section="place", long=True, collapse=True),
    DecimalField(
        key="latitude",
        label="Latitude",
        section="place",
        scale=6,
        unit="°",
        hint="North is positive",
    ),
    DecimalField(
        key="longitude",
        label="Longitude",
        section="place",
        scale=6,
        unit="°",
        hint="East is positive",
    ),
    WholeNumberField(
        key="coordinate_uncertainty",
        label="Coordinate uncertainty",
        section="place",
        unit="m",
        hint="How far off the point may be",
    ),
    TextField(
        key="geodetic_datum",
        label="Geodetic datum",
        section="place",
        width="short",
        hint=", ".join(DATUMS),
    ),
    WholeNumberField(key="elevation_low", label="Elevation from", section="place", unit="m"),
    WholeNumberField(key="elevation_high", label="Elevation to", section="place", unit="m"),
    WholeNumberField(key="depth_low", label="Depth from", section="place", unit="m"),
    WholeNumberField(key="depth_high", label="Depth to", section="place", unit="m"),
    YesNoField(
        key="sensitive_locality",
        label="Sensitive locality",
        section="place",
        hint="Would publishing the place endanger the plant?",
    ),
    TextField(
        key="reason_withheld",
        label="Reason for withholding the place",
        section="place",
        long=True,
    ),
    ChoicesField(
        key="habitats",
        label="Habitats",
        section="place",
        columns=2,
        hint="At most three",
        choices=choices(*HABITATS),
    ),
    TextField(key="habitat_other", label="Other habitat", section="place"),
    WholeNumberField(
        key="duplicates",
        label="Duplicates",
        section="sheet",
        hint="Sheets of the same gathering sent elsewhere",
    ),
)

RULES = (
    MandatoryRule(
        key="accession_number_given",
        name="Accession number is given",
        why="Nothing can be found again without its number.",
        targets=("accession_number",),
        severity=REQUIRED,
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
        severity=STOPPED_AT_ONCE,
    ),
    RangeRule(
        key="longitude_on_earth",
        name="Longitude lies on the globe",
        why="Darwin Core: decimalLongitude runs from -180 to 180, both included.",
        targets=("longitude",),
        lower=Bound(value="-180"),
        upper=Bound(value="180"),
        severity=STOPPED_AT_ONCE,
    ),
    RangeRule(
        key="uncertainty_plausible",
        name="Coordinate uncertainty is plausible",
        why="Zero is never true, and no point is further off than half way round the Earth.",
        targets=("coordinate_uncertainty",),
        lower=Bound(value="0", inclusive=False),
        upper=Bound(value=FURTHEST_ON_EARTH),
        severity=STOPPED_ON_SUBMITTING,
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
        severity=WARNED,
    ),
    RangeRule(
        key="gathered_in_the_past",
        name="Gathering is not in the future",
        targets=("gathered_on",),
        upper=Bound(value="today"),
        severity=STOPPED_AT_ONCE,
    ),
    CrossFieldRule(
        key="determined_after_gathering",
        name="Determination follows gathering",
        targets=("determined_on",),
        must="determined_on >= gathered_on",
        severity=STOPPED_ON_SUBMITTING,
        message="The plant cannot have been determined before it was gathered: check both dates.",
        placement="both",
    ),
    MandatoryRule(
        key="withholding_explained",
        name="Withholding is explained",
        targets=("reason_withheld",),
        when="sensitive_locality = true",
        severity=Severities(entry="note", save="warn", submit="block"),
    ),
    OpenRule(
        key="withholding_asked",
        name="A reason is asked of sensitive places only",
        targets=("reason_withheld",),
        when="sensitive_locality = true",
    ),
    FormatRule(
        key="accession_number_written",
        name="Accession number is written as on the labels",
        targets=("accession_number",),
        pattern="QH-P-[0-9]{6}",
        described="QH-P- and six digits",
        severity=STOPPED_ON_SUBMITTING,
    ),
    UniqueRule(
        key="accession_number_once",
        name="No two sheets share a number",
        targets=("accession_number",),
        severity=REQUIRED,
    ),
    GroupRule(
        key="point_complete",
        name="A point has both coordinates",
        targets=("latitude", "longitude"),
        quantity="all_or_none",
        severity=Severities(save="note", submit="block"),
    ),
    RangeRule(
        key="elevation_plausible",
        name="Elevation lies between the Dead Sea and Everest",
        why="BDQ Core: elevations run from -430 to 8,850 m.",
        targets=("elevation_low", "elevation_high"),
        lower=Bound(value="-430"),
        upper=Bound(value="8850"),
        severity=STOPPED_ON_SUBMITTING,
    ),
    CrossFieldRule(
        key="elevation_in_order",
        name="The lower elevation comes first",
        targets=("elevation_high",),
        must="elevation_high >= elevation_low",
        severity=STOPPED_ON_SUBMITTING,
    ),
    RangeRule(
        key="depth_plausible",
        name="Depth ends at the deepest trench",
        why="BDQ Core: depths run from 0 to 11,000 m.",
        targets=("depth_low", "depth_high"),
        lower=Bound(value="0"),
        upper=Bound(value="11000"),
        severity=STOPPED_ON_SUBMITTING,
    ),
    CrossFieldRule(
        key="depth_in_order",
        name="The lower depth comes first",
        targets=("depth_high",),
        must="depth_high >= depth_low",
        severity=STOPPED_ON_SUBMITTING,
    ),
    FormatRule(
        key="orcid_written",
        name="The collector’s ORCID is whole",
        targets=("collector_orcid",),
        format="orcid",
        severity=STOPPED_ON_SUBMITTING,
    ),
    RangeRule(
        key="habitats_few",
        name="At most three habitats",
        why="More than three say nothing about where the plant grew.",
        targets=("habitats",),
        of="count",
        upper=Bound(value="3"),
        severity=STOPPED_ON_SUBMITTING,
    ),
    OpenRule(
        key="other_habitat_asked",
        name="Other opens its own field",
        targets=("habitat_other",),
        when='"other" in habitats',
    ),
    MandatoryRule(
        key="other_habitat_named",
        name="The other habitat is named",
        targets=("habitat_other",),
        when='"other" in habitats',
        severity=ASKED_BEFORE_SUBMITTING,
    ),
    StartRule(
        key="accessioned_today",
        name="Sheets are accessioned on the day they are typed",
        targets=("accessioned_on",),
        formula="today",
    ),
    CrossFieldRule(
        key="accessioned_after_gathering",
        name="Accession follows gathering",
        targets=("accessioned_on",),
        must="accessioned_on >= gathered_on",
        severity=STOPPED_ON_SUBMITTING,
    ),
    CrossFieldRule(
        key="accessioned_by_today",
        name="Nothing is accessioned ahead of its day",
        targets=("accessioned_on",),
        must="accessioned_on <= today",
        severity=STOPPED_ON_SUBMITTING,
    ),
    DeriveRule(
        key="month_of_gathering",
        name="Month of gathering",
        targets=("gathered_month",),
        value="gathered_on.month",
    ),
    DeriveRule(
        key="season_of_gathering",
        name="Season of gathering",
        targets=("gathering_season",),
        value=_SEASON,
    ),
    DeriveRule(
        key="days_until_accession",
        name="Days until accession",
        targets=("days_to_accession",),
        value="(accessioned_on - gathered_on).days",
    ),
    RangeRule(
        key="duplicates_counted",
        name="Duplicates are a handful",
        targets=("duplicates",),
        lower=Bound(value="0"),
        upper=Bound(value="40"),
        severity=REMARKED,
    ),
)

PLANT_ACCESSION = Form(
    key="plant_accession",
    name="Plant accession",
    purpose="Takes a pressed plant into the collection.",
    zone="Europe/Lisbon",
    sections=(
        Section(key="sheet", label="The sheet"),
        Section(key="gathering", label="Gathering"),
        Section(key="place", label="Place"),
    ),
    fields=FIELDS,
    rules=RULES,
)
