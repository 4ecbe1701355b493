"""Orders are found by their description too. A generated column cannot be changed: it is made anew."""

from django.contrib.postgres.indexes import GinIndex
from django.db import migrations, models
from django.db.models import F, Func, TextField, Value
from django.db.models.functions import Cast, Concat, Lower


class Migration(migrations.Migration):
    dependencies = [("orders", "0005_takes_and_worth")]

    operations = [
        migrations.RemoveIndex(model_name="workorder", name="order_words_trigrams"),
        migrations.RemoveField(model_name="workorder", name="words"),
        migrations.AddField(
            model_name="workorder",
            name="words",
            field=models.GeneratedField(
                db_persist=True,
                expression=Lower(
                    Concat(
                        "number", Value(" "), "title", Value(" "), "po_number", Value(" "), "description", Value(" "),
                        Cast(Func(F("extra"), Value("$.*"), function="jsonb_path_query_array"), TextField()),
                        output_field=TextField(),
                    )
                ),
                output_field=TextField(),
            ),
        ),
        migrations.AddIndex(
            model_name="workorder",
            index=GinIndex(fields=["words"], name="order_words_trigrams", opclasses=["gin_trgm_ops"]),
        ),
    ]
