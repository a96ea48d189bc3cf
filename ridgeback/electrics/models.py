"""The electricity of a room, as its keepers say it is."""

from django.db import models


class RoomWiring(models.Model):
    """One room's circuits, strips and plugs: a `husbandry.wiring.settings.Wiring` as JSON, its feeds by the habitats' keys."""

    room = models.OneToOneField("rooms.Room", on_delete=models.CASCADE, related_name="wiring")
    document = models.JSONField(default=dict)
    version = models.PositiveIntegerField(default=1)
