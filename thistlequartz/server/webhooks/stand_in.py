"""A receiver of webhook calls that ships with the product: it checks signatures."""

from typing import Final

from django.db.models import F
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_POST
from standardwebhooks.webhooks import Webhook as Signer
from standardwebhooks.webhooks import WebhookVerificationError

from thistlequartz.core.translation import tr

from .models import ReceivedWebhookCall, Webhook

KEPT: Final = 50
"""Calls kept of each receiver, the newest."""
LONGEST_BODY: Final = 500_000
"""Bytes."""


@csrf_exempt
@require_POST
def receive(request: HttpRequest, target_id: int) -> HttpResponse:
    """Take a call whose signature fits; refuse others, and those that are to be refused."""
    target = Webhook.objects.filter(pk=target_id, address="").first()
    if target is None:
        return _said(404, tr("Nobody is called here."))
    if int(request.headers.get("Content-Length") or 0) > LONGEST_BODY:
        return _said(413, tr("This is too much."))
    body = request.body.decode(errors="replace")
    try:
        Signer(target.secret).verify(request.body, dict(request.headers), json_parse=False)
        verified = True
    except (WebhookVerificationError, ValueError):
        verified = False
    fails = verified and bool(
        Webhook.objects.filter(pk=target.pk, fails__gt=0).update(fails=F("fails") - 1)
    )
    if verified:  # what anybody sends who has no secret is not kept
        ReceivedWebhookCall.objects.create(
            target=target,
            webhook_id=request.headers.get("webhook-id", "")[:100],
            taken=not fails,
            body=body,
        )
        old = ReceivedWebhookCall.objects.filter(target=target).values_list("pk", flat=True)[KEPT:]
        ReceivedWebhookCall.objects.filter(pk__in=list(old)).delete()
    if not verified:
        return _said(401, tr("The signature does not fit."))
    return _said(503, tr("The stand-in was told to refuse.")) if fails else _said(204, "")


def _said(status: int, text: str) -> HttpResponse:
    return HttpResponse(text, status=status, content_type="text/plain; charset=utf-8")
