"""The four forms of Quillhaven: as they are released, and as their drafts stand."""

from thistlequartz.core.ruleset import RuleSet

from .borrower import BORROWER
from .drafts import (
    DRAFT_BORROWER,
    DRAFT_LOAN_OUT,
    DRAFT_MINERAL_ACCESSION,
    DRAFT_PLANT_ACCESSION,
)
from .lists import COUNTRIES
from .loan import LOAN_OUT
from .mineral import MINERAL_ACCESSION
from .plant import PLANT_ACCESSION

RELEASED = RuleSet(
    choice_lists=(COUNTRIES,),
    forms=(PLANT_ACCESSION, MINERAL_ACCESSION, BORROWER, LOAN_OUT),
)
DRAFT = RuleSet(
    choice_lists=(COUNTRIES,),
    forms=(DRAFT_PLANT_ACCESSION, DRAFT_MINERAL_ACCESSION, DRAFT_BORROWER, DRAFT_LOAN_OUT),
)
RELEASE_NOTES = {
    "plant_accession": "First release: number, place and dates.",
    "mineral_accession": "First release, with what the radiation officer asked for.",
    "borrower": "First release of the register.",
    "loan_out": "First release: contact, terms and premiums.",
}
_NEW_OF_MINERALS = ("shelf_written", "store_by_radiation")
EARLIER = {
    "mineral_accession": MINERAL_ACCESSION.model_copy(
        update={
            "rules": tuple(
                one for one in MINERAL_ACCESSION.rules if one.key not in _NEW_OF_MINERALS
            )
        }
    )
}
"""By key, the forms that were released in an earlier writing first."""
SECOND_NOTES = {
    "mineral_accession": "After the audit: shelves as labelled, sources in the shielded store.",
}

__all__ = ["DRAFT", "EARLIER", "RELEASED", "RELEASE_NOTES", "SECOND_NOTES"]
