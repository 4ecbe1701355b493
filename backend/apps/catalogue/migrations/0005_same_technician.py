"""A tie is called after what it asks: the same technician."""

from django.db import migrations

RENAME = """
UPDATE catalogue_jobtype SET visits = replace(visits::text, '"{old}"', '"{new}"')::jsonb
    WHERE visits::text LIKE '%"{old}"%';
UPDATE catalogue_jobtypeedition SET content = replace(content::text, '"{old}"', '"{new}"')::jsonb
    WHERE content::text LIKE '%"{old}"%';
"""


class Migration(migrations.Migration):
    dependencies = [('catalogue', '0004_job_type_certificates')]

    operations = [
        migrations.RunSQL(
            RENAME.format(old="same_hands", new="same_technician"), RENAME.format(old="same_technician", new="same_hands")
        ),
    ]
