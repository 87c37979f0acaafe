"""What waits at the desk."""

from django.http import HttpRequest
from ninja import Router
from pydantic import BaseModel

from thistlequartz.server.people.rights import Right, person_with

from .tasks import waiting_for

router = Router()


class DeskTasksView(BaseModel):
    """A form in use, and how many records in it wait for who asks; never more than a thousand."""

    key: str
    name: str
    purpose: str
    may_write: bool
    mine: int
    held: int
    returned: int
    to_approve: int


@router.get("/desk", response={200: list[DeskTasksView]})
def show_waiting(request: HttpRequest) -> list[DeskTasksView]:
    """The forms in use, and how many records in each wait for who asks."""
    return [
        DeskTasksView(
            key=one.form.key,
            name=one.form.name,
            purpose=one.form.purpose,
            may_write=one.may_write,
            mine=one.mine,
            held=one.held,
            returned=one.returned,
            to_approve=one.to_approve,
        )
        for one in waiting_for(person_with(request, Right.READ))
    ]
