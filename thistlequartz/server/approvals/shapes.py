"""What approvals send and take."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.server.records.shapes import MOST_AT_ONCE, ChosenRecord, Remark


class ApprovalBody(BaseModel):
    """What is to become of the records that were chosen."""

    model_config = ConfigDict(extra="forbid")
    act: Literal["approve", "return"]
    records: Annotated[list[ChosenRecord], Field(min_length=1, max_length=MOST_AT_ONCE)]
    remark: Remark = ""
    to: Annotated[str, Field(max_length=150)] | None = None
    """The account to which they are returned; otherwise whoever submitted each."""


class ApprovalResultView(BaseModel):
    """What came of one of them."""

    number: int
    title: str
    done: bool
    why_not: str = ""
    remedy: str = ""
