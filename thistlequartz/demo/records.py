"""Invented records of Quillhaven's forms: the same for the same seed, as many as wanted.

Telephone numbers are from ranges kept free for fiction, addresses at example.org.
"""

import random
from collections.abc import Callable, Iterator
from datetime import date, timedelta
from typing import NamedTuple

from .forms.plant import DATUMS, HABITATS, TYPE_STATUSES

Values = dict[str, object]
"""By field key, as people type them."""
_Made = tuple[Values, tuple[Values, ...]]
"""A record, and the slips that people make in such a one."""
FAULTS = 0.4
SUBMITTED = 0.6
"""Shares of the records."""

_GENERA = ("Brindlea", "Quillora", "Fenwortia", "Tarnisia", "Ostrella", "Merrowia", "Calderyx")
_EPITHETS = ("montana", "palustris", "gracilis", "rubescens", "maritima", "tenella", "obscura")
_PEOPLE = ("A. Vennick", "L. Sorrowdale", "M. Quist", "P. Abernook", "J. Thwaitley")
_PLACES = ("Upper Tarn, north shore", "Old quarry at Fenwick Gap", "Dunes east of Quill Point")
_COUNTRIES = ("PT", "PT", "GB", "FR", "NO", "SE")
_REASONS = (
    "Fewer than fifty plants are known from this valley.",
    "The finder asked for the place to be kept back for two years.",
)
_MINERALS = (
    ("Quartz", 7, 7, 2.65),
    ("Calcite", 3, 3, 2.71),
    ("Fluorite", 4, 4, 3.18),
    ("Talc", 1, 1, 2.75),
    ("Kyanite", 4.5, 7, 3.6),
    ("Autunite", 2, 2.5, 3.1),
)
_RADIOACTIVE = "Autunite"
_HOUSES = ("Tarnwick", "Ostrey", "Fallowmere", "Brackenford", "Sallowgate", "Merrowdale")
_KINDS = ("University", "Museum", "School")
_FIRST_DAY = date(1998, 4, 1)
_DAYS = 9_800
_LOANS_BEGIN = date(2025, 1, 10)
BORROWERS = 40
"""Borrowers that the loans choose among."""


class InventedRecord(NamedTuple):
    """A record as it is typed."""

    values: Values
    clean: Values
    """The same without the slip that is in it, if there is one."""
    submit: bool
    """Whether to try to submit it."""


def values_of(form: str, seed: int, count: int, faults: float = FAULTS) -> Iterator[InventedRecord]:
    """`count` records of `form`; a share `faults` of them, from 0 to 1, has a slip in it."""
    chance = random.Random(f"{form} {seed}")  # noqa: S311 - made-up data, not secrets
    for number in range(1, count + 1):
        clean, slips = _MAKERS[form](chance, number)
        slips_in = chance.random() < faults
        values = {**clean, **chance.choice(slips)} if slips_in else clean
        yield InventedRecord(values, clean, chance.random() < SUBMITTED)


def _plant(chance: random.Random, number: int) -> _Made:
    gathered = _FIRST_DAY + timedelta(days=chance.randrange(_DAYS))
    determined = gathered + timedelta(days=chance.randrange(1, 200))
    sensitive = chance.random() < 0.2
    low = chance.randrange(0, 1_900)
    values: Values = {
        "accession_number": f"QH-P-{4200 + number:06}",
        "scientific_name": f"{chance.choice(_GENERA)} {chance.choice(_EPITHETS)}",
        "type_status": chance.choices(TYPE_STATUSES, (1, 2, 1, 3, 20))[0],
        "determined_by": chance.choice(_PEOPLE),
        "gathered_on": gathered.isoformat(),
        "determined_on": determined.isoformat(),
        "accessioned_on": (determined + timedelta(days=chance.randrange(0, 90))).isoformat(),
        "collector": chance.choice(_PEOPLE),
        "collector_number": str(chance.randrange(1, 9_000)),
        "country": chance.choice(_COUNTRIES),
        "locality": chance.choice(_PLACES),
        "latitude": f"{chance.uniform(-55, 70):.5f}",
        "longitude": f"{chance.uniform(-179, 179):.5f}",
        "coordinate_uncertainty": str(chance.choice((10, 30, 100, 500, 2000))),
        "geodetic_datum": chance.choice(DATUMS),
        "elevation_low": str(low),
        "elevation_high": str(low + chance.randrange(0, 80)),
        "habitats": chance.sample(HABITATS[:-1], chance.randrange(1, 4)),
        "sensitive_locality": "yes" if sensitive else "no",
        "duplicates": str(chance.randrange(0, 6)),
    }
    if sensitive:
        values["reason_withheld"] = chance.choice(_REASONS)
    return values, (
        {"scientific_name": ""},
        {"determined_on": (gathered - timedelta(days=9)).isoformat()},
        {"geodetic_datum": ""},
        {"geodetic_datum": "Old survey grid"},
        {"sensitive_locality": "yes", "reason_withheld": ""},
        {"elevation_high": str(low - 100)},
        {"habitats": list(HABITATS[:4])},
        {"habitats": ["Other"], "habitat_other": ""},
        {"duplicates": "33"},
    )


def _mineral(chance: random.Random, number: int) -> _Made:
    mineral, low, high, density = chance.choice(_MINERALS)
    radioactive = mineral == _RADIOACTIVE
    dose = round(chance.uniform(0.2, 9), 2)
    hazards = chance.choices(([], ["Dust"], ["Poisonous"], ["Fibres", "Dust"]), (8, 2, 1, 1))[0]
    values: Values = {
        "accession_number": f"QH-M-{900 + number:06}",
        "mineral": mineral,
        "hardness_low": str(low),
        "hardness_high": str(high),
        "density": str(density),
        "mass": f"{chance.uniform(5, 4_000):.1f}",
        "found_on": (_FIRST_DAY + timedelta(days=chance.randrange(_DAYS))).isoformat(),
        "country": chance.choice(_COUNTRIES),
        "radioactive": "yes" if radioactive else "no",
        "hazards": hazards,
        "store": "Shielded store" if radioactive else chance.choice(("Open shelf", "Drawer")),
        "shelf": f"{chance.choice('ABCDEF')}{chance.randrange(1, 40):02}",
        "on_display": "no",
    }
    if radioactive:
        values |= {"dose_rate": str(dose), "measured_on": "2026-03-04"}
    if {"Poisonous", "Fibres"} & set(hazards):
        values |= {"gloves_needed": "yes", "glove_material": "Nitrile"}
    return values, (
        {"hardness_low": "8", "hardness_high": "6.5"},
        {"mineral": ""},
        {"mineral": "unknown"},
        {"density": "26.5"},
        {"radioactive": "yes", "dose_rate": "", "store": "Shielded store"},
        {"radioactive": "yes", "dose_rate": "0.4", "measured_on": "2026-03-04", "store": "Drawer"},
        {"shelf": "Cellar"},
        {"on_display": "yes", "display_case": "None"},
        {"mass": "120000"},
    )


def _borrower(chance: random.Random, number: int) -> _Made:
    kind, town = chance.choice(_KINDS), chance.choice(_HOUSES)
    country = chance.choice(("PT", "GB", "DE", "AT"))
    values: Values = {
        "name": f"{kind} of {town} {number}",
        "kind": kind,
        "country": country,
        "town": town,
        "founded": str(chance.randrange(1_650, 2_010)),
        "given_name": chance.choice(("Odile", "Mats", "Perpetua", "Jory")),
        "family_name": chance.choice(("Farrowby", "Quist", "Thwaitley", "Vennick")),
        "telephone": f"+44 20 7946 {chance.randrange(0, 1_000):04}",
        "email": f"loans{number}@example.org",
        "email.again": f"loans{number}@example.org",
        "registration_number": f"R-{chance.randrange(10_000, 99_999)}-{number}",
    }
    values["facilities_seen"] = (_FIRST_DAY + timedelta(days=chance.randrange(_DAYS))).isoformat()
    tax = {"DE": f"DE{chance.randrange(10**8, 10**9)}", "PT": f"PT{chance.randrange(10**8, 10**9)}"}
    if country in tax:
        values["tax_number"] = tax[country]
    return values, (
        {"facilities_seen": ""},
        {"registration_number": "", "facilities_seen": ""},
        {"email": "loans at example.org", "email.again": "loans at example.org"},
        {"founded": "987"},
        {"kind": "School", "given_name": "", "family_name": ""},
    )


def _loan(chance: random.Random, number: int) -> _Made:
    begins = _LOANS_BEGIN + timedelta(days=chance.randrange(0, 500))
    value = chance.choice((350, 1_200, 2_000, 4_800, 18_500, 26_000, 61_000))
    values: Values = {
        "piece": f"QH-P-{4200 + number:06}",
        "borrower": str(chance.randrange(1, BORROWERS + 1)),
        "purpose": chance.choice(("Research", "Exhibition")),
        "lent_from": begins.isoformat(),
        "lent_to": (begins + timedelta(days=chance.randrange(14, 170))).isoformat(),
        "photographed": "yes",
        "insured_value": str(value),
        "terms_accepted": "yes",
        "approved_by": chance.choice(_PEOPLE),
    }
    crate = chance.choice(("", "Humidity held", "Gas filled"))
    if crate:
        values |= {"crate_needed": "yes", "crate_kind": crate}
        values |= (
            {"humidity": str(chance.randrange(35, 60))}
            if crate == "Humidity held"
            else {"gas_filling": chance.choice(("Nitrogen", "Argon"))}
        )
    return values, (
        {"purpose": ""},
        {"lent_to": (begins + timedelta(days=130)).isoformat()},
        {"crate_needed": "yes", "crate_kind": ""},
        {"photographed": "no", "insured_value": "4800"},
        {"purpose": "Teaching"},
        {"terms_accepted": ""},
    )


_MAKERS: dict[str, Callable[[random.Random, int], _Made]] = {
    "plant_accession": _plant,
    "mineral_accession": _mineral,
    "borrower": _borrower,
    "loan_out": _loan,
}
