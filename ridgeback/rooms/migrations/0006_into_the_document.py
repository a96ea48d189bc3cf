"""Whatever rows and columns said of a plan goes into the document of its newest revision."""

import json

from django.db import migrations

# The columns and rows that a plan was kept in beside its document, as they were.
ANIMAL = ("name", "sex", "hatched", "hatched_is_estimate", "mass_kg", "length_m", "count", "males", "young", "smallest_m", "others")
ENCLOSURE = ("kind", "lid", "mesh_open_share", "length_m", "width_m", "height_m")
HEATER = (
    "kind", "watts", "x_m", "height_m", "half_angle_deg", "on", "off", "thermostat", "guarded", "length_m", "holder", "fitted",
)
UV_LAMP = ("kind", "tube_m", "x_m", "height_m", "reflector", "fitted", "behind_glass", "on", "off", "again_on", "again_off")


def fields(row, names):
    return {name: getattr(row, name) for name in names}


def document_of(habitat):
    """The plan as rows and columns had it, in the terms of JSON."""
    setting = dict(habitat.setting)
    shell = setting.pop("shell", {})
    document = {
        "name": habitat.name,
        "species": habitat.species,
        "animal": fields(habitat.animal, ANIMAL),
        "enclosure": fields(habitat, ENCLOSURE) | shell,
        "heaters": [fields(row, HEATER) for row in habitat.heaters.order_by("place")],
        "uv_lamps": [fields(row, UV_LAMP) for row in habitat.uv_lamps.order_by("place")],
        **setting,
    }
    return json.loads(json.dumps(document, default=str))


def laid_over(kept, rows):
    """The kept document with what the rows say otherwise: they were what the keeper saw."""
    if isinstance(kept, dict) and isinstance(rows, dict):
        return kept | {name: laid_over(kept.get(name), value) for name, value in rows.items()}
    if isinstance(kept, list) and isinstance(rows, list) and len(kept) == len(rows):
        return [laid_over(old, new) for old, new in zip(kept, rows)]
    return rows


def into_the_document(apps, schema_editor):
    """Every habitat's newest revision says all that its rows said; one without a revision gets its first."""
    Habitat = apps.get_model("rooms", "Habitat")
    PlanRevision = apps.get_model("planner", "PlanRevision")
    ProfileSnapshot = apps.get_model("planner", "ProfileSnapshot")
    PlanVersion = apps.get_model("planner", "PlanVersion")
    for habitat in Habitat.objects.select_related("animal", "head").iterator():
        document = document_of(habitat)
        head = habitat.head
        if head is not None:
            merged = laid_over(head.document, document)
            if merged != head.document:
                head.document = merged
                head.save(update_fields=["document"])
            continue
        newest = PlanRevision.objects.filter(habitat=habitat).order_by("-number").first()
        profile = newest.profile if newest else ProfileSnapshot.objects.filter(species=habitat.species).order_by("-id").first()
        if profile is None:
            continue  # no plan was ever made by this profile: the list says that it cannot be read
        made = PlanRevision.objects.create(
            habitat=habitat,
            number=newest.number + 1 if newest else 1,
            parent=newest,
            document=document,
            profile=profile,
            label="as it stood",
            created_at=habitat.created_at,
        )
        PlanVersion.objects.update_or_create(habitat=habitat, version=habitat.version, defaults={"revision": made})
        habitat.head = made
        habitat.save(update_fields=["head"])


class Migration(migrations.Migration):

    dependencies = [
        ('rooms', '0005_names_of_a_group_lamps_that_burn_twice'),
        ('planner', '0004_glances'),
    ]

    operations = [
        migrations.RunPython(into_the_document, migrations.RunPython.noop),
    ]
