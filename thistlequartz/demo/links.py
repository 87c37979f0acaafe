"""How Quillhaven is reached from outside: a link by which borrowers write themselves down."""

from thistlequartz.server.links.documents import LinkDocument
from thistlequartz.server.links.services import store_link
from thistlequartz.server.people.models import Person

_BORROWERS = LinkDocument.model_validate(
    {
        "name": "Borrowers write themselves down",
        "intro": "You would like to borrow from us? Tell us who you are, and which rooms the pieces"
        " would stand in. We answer within a week.",
        "origins": ["https://quillhaven.example.org"],
        "endings": [
            {
                "condition": 'kind = "school"',
                "text": "Thank you, {name}. For schools we have boxes that travel: we write to"
                " {email} about them as well.",
            },
            {"text": "Thank you, {name}. We answer to {email} within a week."},
        ],
    }
)


def add_access(steward: Person) -> None:
    """Make the links of the forms."""
    store_link(steward, "borrower", _BORROWERS)
