"""What is shown of a habitat to whoever scans its card: chosen by a keeper, read by anybody who has the address."""

from django.conf import settings
from django.db import models


class PublicPage(models.Model):
    """The page of a habitat behind its QR code. The address itself is kept, for the card is printed again; it only reads.

    `shows` names the parts that are shown (`ridgeback.sharing.summary.PARTS`), `note` is said in the keeper's own words.
    """

    habitat = models.OneToOneField("rooms.Habitat", on_delete=models.CASCADE, related_name="public_page")
    token = models.CharField(max_length=40, unique=True)
    shows = models.JSONField(default=list)
    note = models.CharField(max_length=400, blank=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    made_at = models.DateTimeField()
