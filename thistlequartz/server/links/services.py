"""Links: made, changed, ended."""

import secrets

from django.db import transaction
from django.http import Http404
from django.utils import timezone

from thistlequartz.core.translation import tr
from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.drafts import compiled_draft, get_draft
from thistlequartz.server.last_days import end_of
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import Refusal, item

from .documents import LinkDocument, written
from .models import FormLink

KEY_BYTES = 16


def links_of(form_key: str) -> list[FormLink]:
    """The links of a form, the newest first, those that have ended too."""
    return list(FormLink.objects.filter(form=get_draft(form_key)).select_related("person"))


def store_link(
    person: Person,
    form_key: str,
    entry: LinkDocument,
    pk: int | None = None,
    revision: int | None = None,
) -> FormLink:
    """Create a link, or change one unless somebody has changed it since `revision`.

    Raises a Refusal that names what to correct, or Http404.
    """
    draft = get_draft(form_key)
    form = compiled_draft(draft)
    entry, problems = written(entry, form)
    if problems:
        raise Refusal(
            422,
            "unfit-link",
            tr("This link cannot be made like this."),
            tr("Correct what is named below."),
            [item(one) for one in problems],
        )
    with transaction.atomic():
        if pk is None:
            key = secrets.token_urlsafe(KEY_BYTES)
            link = FormLink(form=draft, key=key, person=person, revision=0)
        else:
            link = get_link(form_key, pk)
            _refuse_older(link, revision)
        before = link.document or None
        link.name = entry.name.strip()
        link.revision += 1
        link.ends_at = end_of(entry.last_day, form.form.zone)
        link.most = entry.most
        link.document = entry.model_dump(mode="json")
        link.save()
        act = "make link" if pk is None else "change link"
        log(person, act, form_key, link.name, before=before, after=link.document)
    return link


def _refuse_older(link: FormLink, revision: int | None) -> None:
    if link.revision != revision:
        raise Refusal(
            409,
            "changed-meanwhile",
            tr("Somebody has changed this link since you opened it."),
            tr("What you wrote is still on your screen. Look at the newer one, then store yours."),
            revision=link.revision,
        )


def get_link(form_key: str, pk: int) -> FormLink:
    """A link, for whoever changes it; raises Http404."""
    link = FormLink.objects.select_for_update().filter(form__key=form_key, pk=pk).first()
    if link is None:
        raise Http404(pk)
    return link


@transaction.atomic
def end_link(person: Person, form_key: str, pk: int) -> None:
    """End a link: from now on it opens nothing."""
    link = get_link(form_key, pk)
    if link.ended_at is None:
        link.ended_at = timezone.now()
        link.save(update_fields=["ended_at"])
        log(person, "end link", form_key, link.name)


def why_closed(link: FormLink) -> str:
    """Why a link opens nothing, in words; blank: it is open."""
    if link.ended_at is not None:
        return tr("This link has been ended.")
    if link.ends_at is not None and link.ends_at <= timezone.now():
        return tr("The time for this form is over.")
    if link.most is not None and link.taken >= link.most:
        return tr("As many answers as were wanted have come in.")
    return ""


def link_of(key: str) -> FormLink:
    """The link of a key, open or not; raises Http404."""
    link = FormLink.objects.select_related("form").filter(key=key).first()
    if link is None:
        raise Http404(key)
    return link


def open_link(key: str) -> FormLink:
    """The link of a key that is open; raises Http404, or a Refusal (410)."""
    link = link_of(key)
    refuse_closed(link)
    return link


def refuse_closed(link: FormLink) -> None:
    """Raise a Refusal (410) where a link opens nothing any more."""
    why = why_closed(link)
    if why:
        raise Refusal(
            410, "link-closed", why, tr("Ask whoever gave you this link for another one.")
        )
