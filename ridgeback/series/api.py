"""The address that devices report to: `POST /api/readings/` with `Authorization: Bearer <key>` and a batch as JSON."""

import math
from http import HTTPStatus

from django.contrib.auth.decorators import login_not_required
from django.http import HttpRequest, JsonResponse
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_POST
from pydantic import ValidationError

from ridgeback import clock
from ridgeback.series import devices
from ridgeback.series.messages import Batch, refused_words, take_batch


@csrf_exempt  # no cookie speaks for a device
@login_not_required
@require_POST
def readings(request: HttpRequest) -> JsonResponse:
    """Take a batch of readings; answers how many were new, how many known, and why others were refused."""
    scheme, _blank, key = request.headers.get("Authorization", "").partition(" ")
    device = devices.known(key.strip()) if scheme.lower() == "bearer" and key.strip() else None
    if device is None:
        answer = JsonResponse({"error": "A device's key is missing or not known."}, status=HTTPStatus.UNAUTHORIZED)
        answer["WWW-Authenticate"] = "Bearer"
        return answer
    now = clock.now()
    try:
        devices.count_request(device, now)
    except devices.TooOften as often:
        answer = JsonResponse({"error": "That is too often."}, status=HTTPStatus.TOO_MANY_REQUESTS)
        answer["Retry-After"] = str(math.ceil(often.wait_s))
        return answer
    try:
        batch = Batch.model_validate_json(request.body)
    except ValidationError as error:
        where = error.errors(include_url=False, include_input=False, include_context=False)[:5]
        said = [{"at": ".".join(map(str, item["loc"])), "problem": item["msg"]} for item in where]
        devices.heard(device, now, "; ".join(f"{item['at']}: {item['problem']}" for item in said))
        return JsonResponse({"error": "That is no batch of readings.", "problems": said}, status=HTTPStatus.UNPROCESSABLE_ENTITY)
    outcome = take_batch(device, batch, now)
    devices.heard(device, now, ", ".join(f"{why}: {count}" for why, count in sorted(outcome.refused.items())))
    return JsonResponse(refused_words(outcome), status=HTTPStatus.OK)
