"""The table of files comes from `orders`, with its rows."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from foundation.moving import CreateOrTakeOver


class Migration(migrations.Migration):
    initial = True

    dependencies = [
        ("orders", "0011_names_by_key"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        CreateOrTakeOver(
            taken_from="orders_openworkfile",
            gives_back=True,
            name="OpenWorkFile",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(max_length=200)),
                ("text", models.TextField()),
                ("uploaded_at", models.DateTimeField()),
                ("accepted_at", models.DateTimeField(null=True)),
                ("made", models.PositiveIntegerField(default=0)),
                ("uploaded_by", models.ForeignKey(
                    on_delete=django.db.models.deletion.CASCADE, to=settings.AUTH_USER_MODEL
                )),
            ],
        ),
    ]
