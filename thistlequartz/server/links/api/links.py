"""Links, for those who make them."""

from datetime import datetime

from django.http import HttpRequest
from ninja import Router, Status
from pydantic import BaseModel

from thistlequartz.core.language import FormulaError, Segment
from thistlequartz.core.merging import merge_offers
from thistlequartz.core.ruleset.placeholders import PlaceholderOffer
from thistlequartz.server.forms.drafts import compiled_draft, get_draft
from thistlequartz.server.forms.views import clauses_of
from thistlequartz.server.links.documents import LinkDocument, written
from thistlequartz.server.links.filling import entry_of
from thistlequartz.server.links.models import FormLink
from thistlequartz.server.links.services import end_link, links_of, store_link, why_closed
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import ProblemItem, item

router = Router()


class LinkView(BaseModel):
    """A link, as it is made."""

    id: int
    revision: int
    key: str
    """The end of its address."""
    entry: LinkDocument
    """With its conditions as clauses, where clauses can say them."""
    conditions: list[list[Segment]]
    """Of its endings, in words."""
    made_by: str
    created_at: datetime
    taken: int
    closed: str
    """Why it opens nothing; blank: it is open."""
    problems: list[ProblemItem]
    """What the form as it is by now does not have."""


class ChangedLink(LinkDocument):
    """A link that was changed, since a version of it."""

    revision: int


class LinkList(BaseModel):
    """The links of a form, and what can be put into their texts."""

    links: list[LinkView]
    offers: list[PlaceholderOffer]


def _view(link: FormLink) -> LinkView:
    form = compiled_draft(link.form)
    entry = entry_of(link)
    endings = [
        one.model_copy(update={"clauses": clauses_of(one.condition, form.language.vocabulary)})
        for one in entry.endings
    ]

    def words(condition: str) -> list[Segment]:
        try:
            return list(form.condition(condition).words) if condition else []
        except FormulaError:
            return []

    return LinkView(
        id=link.pk,
        revision=link.revision,
        key=link.key,
        entry=entry.model_copy(update={"endings": endings}),
        conditions=[words(one.condition) for one in endings],
        made_by=link.person.shown_name if link.person else "",
        created_at=link.created_at,
        taken=link.taken,
        closed=why_closed(link),
        problems=[item(one) for one in written(entry, form)[1]],
    )


@router.get("/forms/{form_key}/links", response={200: LinkList})
def list_links(request: HttpRequest, form_key: str) -> LinkList:
    """The links of a form."""
    person_with(request, Right.RELEASE)
    form = compiled_draft(get_draft(form_key))
    return LinkList(
        links=[_view(one) for one in links_of(form_key)],
        offers=list(merge_offers(form.fields)),
    )


@router.post("/forms/{form_key}/links", response={201: LinkView})
def make_link(request: HttpRequest, form_key: str, body: LinkDocument) -> Status[LinkView]:
    """Make a link."""
    return Status(201, _view(store_link(person_with(request, Right.RELEASE), form_key, body)))


@router.put("/forms/{form_key}/links/{link_id}", response={200: LinkView})
def change_link(request: HttpRequest, form_key: str, link_id: int, body: ChangedLink) -> LinkView:
    """Change a link, unless somebody has changed it meanwhile; its address stays."""
    person = person_with(request, Right.RELEASE)
    entry = LinkDocument.model_validate(body.model_dump(exclude={"revision"}))
    return _view(store_link(person, form_key, entry, link_id, body.revision))


@router.delete("/forms/{form_key}/links/{link_id}", response={204: None})
def stop_link(request: HttpRequest, form_key: str, link_id: int) -> Status[None]:
    """End a link: from now on it opens nothing."""
    end_link(person_with(request, Right.RELEASE), form_key, link_id)
    return Status(204, None)
