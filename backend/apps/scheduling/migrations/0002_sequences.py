from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ('scheduling', '0001_initial'),
    ]

    operations = [
        migrations.RunSQL(
            "UPDATE scheduling_planningrun SET kind = 'sequence' WHERE kind = 'chain'",
            "UPDATE scheduling_planningrun SET kind = 'chain' WHERE kind = 'sequence'",
        ),
    ]
