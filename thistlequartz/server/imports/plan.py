"""How a file is read, what is done with its rows, and what came of it."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.core.tables import Marks
from thistlequartz.core.values import DateOrder, DecimalMark

Count = Annotated[int, Field(ge=0)]


class ImportPlan(BaseModel):
    """How a file is read, and what is done with its rows."""

    model_config = ConfigDict(extra="forbid")
    columns: Annotated[dict[str, Annotated[str, Field(max_length=200)]], Field(max_length=1_000)]
    """By head: the entry that the column goes to (a field, or `email.again`), or `reason:` and the
    key of a rule whose warning is passed with the reasons in it. A head that is not here is left
    out."""
    part: Annotated[str, Field(max_length=100)] | None = None
    """The sheet of a workbook, or the encoding of a text where it is not UTF-8."""
    decimal_mark: DecimalMark | None = None
    date_order: DateOrder | None = None
    as_typed: bool = False
    """Whether JSON carries values as people type them; otherwise they are in canonical form."""
    submit: bool = False
    """Whether the rows are submitted; otherwise they are saved."""
    update_by: Annotated[str, Field(max_length=60)] | None = None
    """The unique field by which records are found that are changed; None: all rows are new."""
    starting: bool = True
    """Whether fields without a column begin in new records as they do at the desk."""

    @property
    def marks(self) -> Marks:
        """By which marks the file is written."""
        return Marks(self.decimal_mark, self.date_order)


class ImportCounts(BaseModel):
    """What came of the rows of a file."""

    dry: bool = False
    """Whether it was only tried, and nothing stored."""
    rows: Count = 0
    added: Count = 0
    changed: Count = 0
    refused: Count = 0
    known: Count = 0
    """Stored by an earlier run already."""
    held: Count = 0
    """Of those stored, how many are on hold."""
    left_out: Count = 0
    """Of those stored, in how many something of the row does not count, as it is not relevant."""
    warned: Count = 0
    """Of those stored, how many with a warning."""

    def and_also(self, other: "ImportCounts | None") -> "ImportCounts":
        """What came of these rows and of others."""
        if other is None:
            return self
        counts = {name: getattr(self, name) for name in ImportCounts.model_fields if name != "dry"}
        return ImportCounts(
            dry=self.dry, **{name: count + getattr(other, name) for name, count in counts.items()}
        )


REASON: Literal["reason:"] = "reason:"
"""How the targets of columns begin that hold reasons, before the rule's key."""
