"""What terms are made of, and the interfaces between the translator and its parts."""

from typing import Any, Final, Protocol

from thistlequartz.core.kernel import nodes

from .terms import Term, TruthTerm
from .texts import TextTerms

NAME: Final = "The solver"
"""How it is called where it refuses something."""


class TranslationContext(Protocol):
    """The record, what it is judged under, and the other records."""

    texts: TextTerms

    def read(self, node: nodes.Read, other: object) -> Term:
        """A value that is given; `other` tells one other record from another."""

    def refer(self, node: nodes.Refer, reference: Term) -> Term:
        """A field of the record that is referred to."""

    def is_relevant(self, key: str) -> Any:
        """That a field is relevant."""

    def there(self, other: object) -> Any:
        """That there is the other record that is spoken of."""

    def taken(self, keys: tuple[str, ...]) -> Any:
        """That another record holds the same values."""

    def assume(self, condition: Any) -> None:
        """Something that is so whatever the record."""

    def fresh(self, sort: Any) -> Any:
        """Something of which nothing is known."""

    def left_free(self, node: nodes.Node, term: Term, why: str) -> None:
        """That little is known of a node, as something of that name cannot be said."""


class Translating(Protocol):
    """From nodes to terms."""

    surroundings: TranslationContext
    texts: TextTerms

    def term(self, node: nodes.Node) -> Term:
        """What a node comes to."""

    def truth(self, node: nodes.Node) -> TruthTerm:
        """What a condition comes to."""

    def constant(self, value: Any) -> Term:
        """A value that is known beforehand."""

    def equality(self, left: Term, right: Term) -> Any:
        """That two values are equal; refused where that cannot be said."""

    def free(self, node: nodes.Node, kind: nodes.Kind) -> Term:
        """Anything of a kind."""
