"""What was counted on technicians' vans lies in places now, brought there by a movement each.

A part that is called as a part of the price list belongs to it; every other one is listed for tidying. What visits or
job types take and nobody ever named as a part becomes one, so that nothing is lost.
"""

from django.db import migrations
from django.utils import timezone


_HELD = """
SELECT DISTINCT jsonb_object_keys(takes) FROM orders_visit WHERE takes <> '{}'
UNION SELECT DISTINCT jsonb_object_keys(parts) FROM catalogue_jobtype WHERE parts <> '{}'
"""


def number_parts(apps, schema_editor):
    part_model, item_model = apps.get_model("stock", "Part"), apps.get_model("pricing", "Item")
    with schema_editor.connection.cursor() as cursor:
        cursor.execute(_HELD)
        held = {row[0] for row in cursor.fetchall()}
    known = set(part_model.objects.values_list("code", flat=True))
    for code in sorted(held - known):
        name = code.replace("-", " ").capitalize()[:80]
        while part_model.objects.filter(name__iexact=name).exists():
            name = f"{name[:70]} ({code})"[:80]
        part_model.objects.create(code=code[:40], name=name)
    items = {row.wording.casefold(): row for row in item_model.objects.filter(kind="part")}
    number = 10_000
    for part in part_model.objects.order_by("id"):
        number += 1
        part.number = f"P-{number}"
        item = items.pop(part.name.casefold(), None) if not part.merged_into else None
        if item is not None:
            part.item, part.cost, part.unit = item, item.cost, item.unit
        part.untidy = item is None and not part.merged_into
        part.save(update_fields=["number", "item", "cost", "unit", "untidy"])
    if number > 10_000:
        apps.get_model("foundation", "Counter").objects.update_or_create(name="part", defaults={"last": number})


def places_of_vans(apps, schema_editor):
    place_model, level_model = apps.get_model("stock", "StockPlace"), apps.get_model("stock", "Level")
    movement = apps.get_model("stock", "Movement")
    rows = list(apps.get_model("stock", "VanPart").objects.select_related("technician").order_by("id"))
    if not rows:
        return
    now = timezone.now()
    elsewhere, _made = place_model.objects.get_or_create(kind="count difference")
    for row in rows:
        vehicle = row.technician.vehicle_id
        of = {"vehicle_id": vehicle} if vehicle else {"technician_id": row.technician_id}
        place, _made = place_model.objects.get_or_create(kind="van", **of)
        level, _made = level_model.objects.get_or_create(place=place, part_id=row.part_id)
        level.quantity += row.quantity  # two who share a vehicle share what lies on it
        level.save(update_fields=["quantity"])
        if row.quantity:
            movement.objects.create(
                part_id=row.part_id, quantity=row.quantity, source=elsewhere, target=place, reason="count",
                happened_at=now, recorded_at=now, actor_name="Iron Relay",
                note="on the van before movements were kept",
            )


def vans_again(apps, schema_editor):
    van_part = apps.get_model("stock", "VanPart")
    technicians = list(apps.get_model("people", "Technician").objects.order_by("id"))
    by_vehicle, by_id = {}, {row.pk: row for row in technicians}
    for row in technicians:
        by_vehicle.setdefault(row.vehicle_id, row)
    for level in apps.get_model("stock", "Level").objects.filter(place__kind="van").select_related("place"):
        who = by_vehicle.get(level.place.vehicle_id) if level.place.vehicle_id else by_id.get(level.place.technician_id)
        if who is not None:
            van_part.objects.create(technician=who, part_id=level.part_id, quantity=max(0, level.quantity))


class Migration(migrations.Migration):
    dependencies = [("stock", "0005_places_and_movements"), ("catalogue", "0007_jobtype_terms_jobtype_wanted_per_hour")]

    operations = [
        migrations.RunPython(number_parts, migrations.RunPython.noop),
        migrations.RunPython(places_of_vans, vans_again),
    ]
