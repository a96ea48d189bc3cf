"""What an archive of a room holds: its tables in the order in which they are made anew, and what in them speaks of other rows."""

from dataclasses import dataclass, field
from typing import Any, Final

from django.apps import apps
from django.db import models

FORMAT: Final = "ridgeback-room/1"
KEEPER: Final = "accounts.Keeper"


@dataclass(frozen=True)
class Table:
    """One table: its model, the way from its rows to their room, and fields that are set once all its rows are there (`later`).

    A table without an own room is `shared`: its rows are found by the field of that name where they are there already.
    """

    label: str
    way: str
    later: tuple[str, ...] = ()
    shared: str = ""
    files: tuple[str, ...] = field(default=())

    @property
    def model(self) -> type[models.Model]:
        return apps.get_model(self.label)

    @property
    def name(self) -> str:
        """Its file in the archive."""
        return f"{self.label.lower().replace('.', '-')}.jsonl"


TABLES: Final = (
    Table("rooms.Room", "pk"),
    Table("book.OwnProfile", "room"),
    Table("rooms.Habitat", "room", later=("head",)),
    Table("rooms.Company", "habitat__room"),
    Table("planner.ProfileSnapshot", "planrevision__habitat__room", shared="sha256"),
    Table("planner.PlanRevision", "habitat__room", later=("parent",)),
    Table("planner.PlanVersion", "habitat__room"),
    Table("rooms.Animal", "room", later=("mother", "father")),
    Table("rooms.Residence", "animal__room"),
    Table("daybook.Event", "room", later=("replaces",)),
    Table("daybook.Photo", "event__room", files=("jpeg",)),
    Table("daybook.Quiet", "animal__room"),
    Table("daybook.Instrument", "room"),
    Table("series.Channel", "room"),
    Table("series.Correction", "instrument__room"),
    Table("series.Sample", "channel__room"),
    Table("series.Hour", "channel__room"),
    Table("series.TableMapping", "room"),
    Table("pantry.Item", "room"),
    Table("pantry.Delivery", "room"),
    Table("pantry.Lot", "delivery__room"),
    Table("pantry.Change", "lot__delivery__room"),
    Table("pantry.Freezer", "room"),
    Table("pantry.Culture", "room"),
    Table("pantry.CultureEntry", "culture__room"),
    Table("pantry.GutLoad", "room"),
    Table("building.Build", "habitat__room"),
    Table("building.DoneStep", "build__habitat__room"),
    Table("electrics.RoomWiring", "room"),
    Table("money.RoomPurse", "room"),
    Table("money.Shopping", "habitat__room"),
)
# What is worked out from the rest, is a secret, is of one keeper, or is on its way: it is made anew where it is needed.
LEFT_OUT: Final = frozenset(
    {
        "accounts.Keeper", "accounts.Try", "accounts.SignedIn", "accounts.Happening", "accounts.AccountInvitation",
        "accounts.Night",
        "rooms.Membership", "rooms.Invitation", "rooms.SitterLink", "rooms.Seeding",
        "planner.Glance", "book.Entry", "book.Name", "daybook.Written", "daybook.Notice", "daybook.Letter",
        "uploads.Upload", "uploads.Part", "archive.ArchiveFile", "archive.Deletion",
        "series.Device", "series.ForetoldHour", "series.TableFile", "rota.RotaCard", "rota.Subscription", "reviewing.Visitor",
        "keeping.DaybookFile", "sharing.PublicPage", "api.Token", "api.Answered", "api.Webhook",
        "api.Delivery",
    }
)  # fmt: skip
Maps = dict[str, dict[int, int]]


def renumbered(label: str, row: dict[str, Any], maps: Maps) -> dict[str, Any]:
    """A row whose documents speak of other rows by their new keys; `maps` are those made before, and of its own table."""
    if label == "daybook.Event":
        payload = dict(row["payload"])
        for name, of in (("partner", "rooms.Animal"), ("clutch", "daybook.Event")):
            if isinstance(payload.get(name), int):
                payload[name] = maps.get(of, {}).get(payload[name], payload[name])
        return row | {"payload": payload}
    if label == "electrics.RoomWiring":
        homes = maps.get("rooms.Habitat", {})
        feeds = {
            str(homes.get(int(key), key)): feed for key, feed in row["document"].get("feeds", {}).items() if str(key).isdecimal()
        }
        return row | {"document": row["document"] | {"feeds": feeds}}
    return row


def schema() -> dict[str, Any]:
    """What each table's rows hold: the archive's own schema, which goes along in it."""

    def said(one: "models.Field[Any, Any]") -> str:
        if one.is_relation and one.related_model is not None:
            label = one.related_model._meta.label
            return "name of a keeper" if label == KEEPER else f"id of {label}"
        return {"BinaryField": "name of a file", "JSONField": "JSON"}.get(one.get_internal_type(), one.get_internal_type())

    return {table.name: {one.name: said(one) for one in table.model._meta.concrete_fields} for table in TABLES}
