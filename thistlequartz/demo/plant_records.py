"""Invented records of plants: the same for the same seed."""

import random
from collections.abc import Iterator
from datetime import date, timedelta

from .plant_accession import DATUMS, TYPE_STATUSES

_GENERA = ("Brindlea", "Quillora", "Fenwortia", "Tarnisia", "Ostrella", "Merrowia", "Calderyx")
_EPITHETS = ("montana", "palustris", "gracilis", "rubescens", "maritima", "tenella", "obscura")
_PEOPLE = ("A. Vennick", "L. Sorrowdale", "M. Quist", "P. Abernook", "J. Thwaitley")
_REASONS = (
    "Fewer than fifty plants are known from this valley.",
    "The finder asked for the place to be kept back for two years.",
)
_FIRST_DAY = date(1998, 4, 1)
_DAYS = 9_800


def plant_values(seed: int, count: int) -> Iterator[tuple[dict[str, str], bool]]:
    """`count` records as (values by field key, whether to try to submit). Some are incomplete."""
    chance = random.Random(seed)  # noqa: S311 - made-up data, not secrets
    for number in range(1, count + 1):
        yield _plant(chance, number)


def _plant(chance: random.Random, number: int) -> tuple[dict[str, str], bool]:
    gathered = _FIRST_DAY + timedelta(days=chance.randrange(_DAYS))
    sensitive = chance.random() < 0.2
    values = {
        "accession_number": f"QH-P-{4200 + number:06}",
        "scientific_name": f"{chance.choice(_GENERA)} {chance.choice(_EPITHETS)}",
        "type_status": chance.choices(TYPE_STATUSES, (1, 2, 1, 3, 20))[0],
        "determined_by": chance.choice(_PEOPLE),
        "gathered_on": gathered.isoformat(),
        "determined_on": (gathered + timedelta(days=chance.randrange(1, 400))).isoformat(),
        "latitude": f"{chance.uniform(-55, 70):.5f}",
        "longitude": f"{chance.uniform(-179, 179):.5f}",
        "coordinate_uncertainty": str(chance.choice((10, 30, 100, 500, 2000))),
        "geodetic_datum": chance.choice(DATUMS),
        "sensitive_locality": "yes" if sensitive else "no",
        "reason_withheld": chance.choice(_REASONS) if sensitive else "",
    }
    slip = chance.random()
    if slip < 0.12:
        values["scientific_name"] = ""
    elif slip < 0.22:
        values["determined_on"] = (gathered - timedelta(days=9)).isoformat()
    elif slip < 0.3:
        values["geodetic_datum"] = ""
    elif slip < 0.36:
        values["geodetic_datum"] = "Old survey grid"
    elif slip < 0.42:
        values.update(sensitive_locality="yes", reason_withheld="")
    return values, slip >= 0.3 and chance.random() < 0.7
