"""Files of open work are in an app of their own, which took the table over."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("orders", "0011_names_by_key"), ("open_work", "0001_initial")]

    operations = [
        migrations.SeparateDatabaseAndState(state_operations=[migrations.DeleteModel("OpenWorkFile")]),
    ]
