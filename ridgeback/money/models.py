"""Prices of a room, and what of a habitat's bill is there."""

from django.db import models


class RoomPurse(models.Model):
    """One room's prices: a `husbandry.money.settings.Purse` as JSON."""

    room = models.OneToOneField("rooms.Room", on_delete=models.CASCADE, related_name="purse")
    document = models.JSONField(default=dict)
    version = models.PositiveIntegerField(default=1)


class Shopping(models.Model):
    """What of one habitat's bill the keeper has ("have") or has bought ("bought"), by its key; the rest is to buy."""

    habitat = models.OneToOneField("rooms.Habitat", on_delete=models.CASCADE, related_name="shopping")
    ticks = models.JSONField(default=dict)
