"""Parts become rows with a lasting key; vans hold them by it."""

import django.db.models.deletion
from django.db import migrations, models
from django.db.models.functions import Lower

from foundation.named import key_for


def parts_of_vans(apps, schema_editor):
    part_model, van = apps.get_model("stock", "Part"), apps.get_model("stock", "VanPart")
    parts: dict = {}
    for row in van.objects.order_by("id"):
        name = row.name.strip()
        if name.lower() not in parts:
            code = key_for(name, {part.code for part in parts.values()})
            parts[name.lower()] = part_model.objects.create(code=code, name=name)
        row.part = parts[name.lower()]
        row.save(update_fields=["part"])


class Migration(migrations.Migration):
    dependencies = [("stock", "0001_vans")]

    operations = [
        migrations.CreateModel(
            name="Part",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("code", models.CharField(max_length=40, unique=True)),
                ("name", models.CharField(max_length=80)),
                ("retired", models.BooleanField(default=False)),
            ],
            options={
                "abstract": False,
                "constraints": [models.UniqueConstraint(Lower("name"), name="stock_one_part_of_a_name")],
            },
        ),
        migrations.RemoveConstraint("vanpart", "one_row_per_part_and_van"),
        migrations.RenameField("vanpart", "part", "name"),
        migrations.AddField("vanpart", "part", models.ForeignKey(
            null=True, on_delete=django.db.models.deletion.PROTECT, related_name="on_vans", to="stock.part"
        )),
        migrations.RunPython(parts_of_vans, migrations.RunPython.noop),
    ]
