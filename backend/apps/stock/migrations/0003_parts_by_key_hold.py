"""What 0002 filled is now required."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("stock", "0002_parts_by_key")]

    operations = [
        migrations.RemoveField("vanpart", "name"),
        migrations.AlterField("vanpart", "part", models.ForeignKey(
            on_delete=django.db.models.deletion.PROTECT, related_name="on_vans", to="stock.part"
        )),
        migrations.AddConstraint(
            "vanpart", models.UniqueConstraint(fields=["technician", "part"], name="one_row_per_part_and_van")
        ),
    ]
