"""What 0006 moved is gone from where it was."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("stock", "0006_vans_become_places")]

    operations = [migrations.DeleteModel("VanPart")]
