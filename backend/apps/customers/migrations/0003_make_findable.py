"""Phones in one notation, and every customer findable."""

from django.db import migrations

from core.basics import phone_key


def fill(apps, _schema):
    customer_model = apps.get_model("customers", "Customer")
    for model in (customer_model, apps.get_model("customers", "Contact")):
        rows = list(model.objects.exclude(phone=""))
        for row in rows:
            row.phone_key = phone_key(row.phone, "PT")
        model.objects.bulk_update(rows, ["phone_key"], batch_size=1000)


# The rows as apps.customers.search would write them, but for accents; the next change of a customer writes them anew.
ROWS = """
INSERT INTO customers_findable (customer_id, text)
SELECT id, lower(name || ' ' || email || ' ' || replace(phone_key, '+', '')) FROM customers_customer;
INSERT INTO customers_findable (customer_id, contact_id, text)
SELECT c.id, k.id, lower(c.name || ' ' || k.name || ' ' || k.email || ' ' || replace(k.phone_key, '+', ''))
FROM customers_contact k JOIN customers_customer c ON c.id = k.customer_id;
INSERT INTO customers_findable (customer_id, site_id, text)
SELECT c.id, s.id, lower(c.name || ' ' || s.name || ' ' || s.address)
FROM customers_site s JOIN customers_customer c ON c.id = s.customer_id;
INSERT INTO customers_findable (customer_id, site_id, asset_id, text)
SELECT c.id, s.id, a.id, lower(c.name || ' ' || a.serial || ' ' || a.make || ' ' || a.model)
FROM customers_asset a JOIN customers_site s ON s.id = a.site_id JOIN customers_customer c ON c.id = s.customer_id
WHERE a.serial <> '';
"""


class Migration(migrations.Migration):
    dependencies = [("customers", "0002_finding_merging_importing")]
    operations = [
        migrations.RunPython(fill, migrations.RunPython.noop),
        migrations.RunSQL(ROWS, migrations.RunSQL.noop),
    ]
