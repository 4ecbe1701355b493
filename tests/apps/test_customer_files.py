"""Customers from files and into files: previewed, all or nothing, out and in again the same."""

import io

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from apps.customers import importing
from apps.customers.models import Asset, Contact, Customer, CustomerFile, Site
from apps.customers.queries import find

pytestmark = pytest.mark.django_db


def upload(api, kind, text, name="file.csv"):
    file = SimpleUploadedFile(name, text.encode())
    row = api.client.post(f"/api/customers/import/of/{kind}", {"file": file}).json()
    importing.read(row["id"])
    return api.get(f"/customers/import/{row['id']}").json()


def bring_in(api, row):
    assert api.post(f"/customers/import/{row['id']}/accept").status_code == 200
    importing.bring_in(row["id"])
    return api.get(f"/customers/import/{row['id']}").json()


CUSTOMERS = """name,phone,email,tags,colour
Marram Foods,+351 296 100 200,office@marram.example,"key account, warranty",red
Seagate Stores,,info@seagate.example,,
Known by Phone,296 555 100,,,
,+351 296 7,,,
Bad Mail,,not-an-address,,
Marram Foods,,,,
"""


def test_every_row_says_what_it_would_make(world, dispatcher):
    file = upload(dispatcher, "customers", CUSTOMERS)
    assert file["state"] == "read"
    assert file["counts"] == {"new": 1, "change": 1, "same": 1, "refused": 3, "unknown": ["colour"]}
    by_line = {row["line"]: row for row in file["rows"]}
    assert by_line[3]["notes"] == ["changes email"]
    assert by_line[4]["notes"] == ["known by its phone as Seagate Stores"]
    assert by_line[5]["problems"] == ["name is empty"]
    assert by_line[6]["problems"] == ["“not-an-address” is no e-mail address"]
    assert by_line[7]["problems"] == ["the same as line 2"]
    assert Customer.objects.count() == 1


def test_accepted_rows_come_in_and_are_found(world, dispatcher):
    file = bring_in(dispatcher, upload(dispatcher, "customers", CUSTOMERS))
    assert file["state"] == "done"
    made = Customer.objects.get(name="Marram Foods")
    assert (made.phone_key, made.tags) == ("+351296100200", ["key account", "warranty"])
    world.customer.refresh_from_db()
    assert (world.customer.email, world.customer.phone) == ("info@seagate.example", "+351 296 555 100")
    assert [hit.customer for hit in find("marram")] == [made]
    assert dispatcher.post(f"/customers/import/{file['id']}/accept").status_code == 409


def test_sites_assets_and_contacts_follow_their_customers(world, dispatcher):
    sites = (
        "customer;name;address;access_notes\n"
        "Seagate Stores;Cold store;Millrace Road 80;Ring twice\n"
        "Seagate Stores;Nowhere;Qqqq 12;\n"
        "Nobody;Shed;Millrace Road 82;\n"
    )
    file = upload(dispatcher, "sites", sites)
    assert file["counts"] == {"new": 1, "refused": 2}
    assert any("is not on the map" in problem for row in file["rows"] for problem in row["problems"])
    bring_in(dispatcher, file)
    site = Site.objects.get(name="Cold store")
    assert site.area is not None
    assets = (
        "customer,site,kind,serial,warranty_until,state\n"
        "Seagate Stores,Cold store,Dock leveller,DL-77,2027-01-31,in service\n"
        "Seagate Stores,Cold store,Dock leveller,DL-78,soon,in service\n"
        "Seagate Stores,Cold store,Dock leveller,DL-79,,melted\n"
    )
    bring_in(dispatcher, upload(dispatcher, "assets", assets))
    assert list(Asset.objects.filter(site=site).values_list("serial", flat=True)) == ["DL-77"]
    cards = "BEGIN:VCARD\nVERSION:4.0\nFN:Edda Holm\nORG:Seagate Stores\nTEL:296 555 101\nTITLE:Porter\nEND:VCARD\n"
    bring_in(dispatcher, upload(dispatcher, "contacts", cards, "people.vcf"))
    contact = Contact.objects.get(name="Edda Holm")
    assert (contact.phone_key, contact.role) == ("+351296555101", "Porter")


@pytest.mark.parametrize(
    ("kind", "text", "says"),
    [
        ("customers", "", "must name the column name"),
        ("sites", "name,address\na,b\n", "must name the column customer"),
        ("contacts", "BEGIN:VCARD\nrubbish", "vCard file"),
    ],
)
def test_a_file_that_is_none_says_so(world, dispatcher, kind, text, says):
    if not text:
        text = "\n"
    file = upload(dispatcher, kind, text)
    assert file["state"] == "failed"
    assert says in file["failure"] or "There is no contact" in file["failure"]


def test_nothing_is_half_brought_in(world, dispatcher, monkeypatch):
    row = upload(dispatcher, "customers", CUSTOMERS)
    dispatcher.post(f"/customers/import/{row['id']}/accept")

    def broken(_ids):
        raise RuntimeError("the disk is full")

    monkeypatch.setattr(importing, "make_findable", broken)
    with pytest.raises(RuntimeError):
        importing.bring_in(row["id"])
    assert Customer.objects.count() == 1
    monkeypatch.undo()
    importing.bring_in(row["id"])  # the queue hands it to the next worker
    assert CustomerFile.objects.get().state == "done"


def body_of(answer) -> str:
    return b"".join(answer.streaming_content).decode()


@pytest.mark.parametrize("kind", ["customers", "sites", "contacts", "assets"])
def test_what_goes_out_comes_in_as_it_is(world, dispatcher, kind):
    Contact.objects.create(
        customer=world.customer, name="Edda Holm", phone="+351 296 100 201", phone_key="+351296100201"
    )
    text = body_of(dispatcher.get(f"/customers/export/{kind}.csv"))
    file = upload(dispatcher, kind, text)
    assert file["counts"] == {"same": 1}


def test_cards_and_points_go_out(world, dispatcher):
    Contact.objects.create(customer=world.customer, name="Edda Holm", phone="+351 296 1")
    assert "FN:Edda Holm" in body_of(dispatcher.get("/customers/contacts.vcf"))
    points = body_of(dispatcher.get("/customers/sites.geojson"))
    assert '"Seagate Hall"' in points
    again = dispatcher.client.post(
        "/api/customers/sites.geojson", {"file": SimpleUploadedFile("sites.geojson", points.encode())}
    ).json()
    assert again == {"made": 0, "problems": ["feature 1: Seagate Stores has a site Seagate Hall already"]}


def test_a_formula_in_a_name_goes_out_as_text(world, dispatcher):
    Customer.objects.create(name="=cmd()")
    assert "'=cmd()" in body_of(dispatcher.get("/customers/export/customers.csv"))


def test_files_of_a_record_are_kept_and_only_plain_ones_shown(world, dispatcher, settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path
    path = f"/api/files/customer/{world.customer.pk}"
    page = SimpleUploadedFile("../x.html", b"<script>alert(1)</script>", content_type="text/html")
    row = dispatcher.client.post(path, {"file": page}).json()
    assert row["name"] == "x.html"
    answer = dispatcher.client.get(f"/api/files/{row['id']}")
    assert answer["Content-Type"] == "application/octet-stream"
    assert answer["Content-Disposition"].startswith("attachment")
    assert io.BytesIO(b"".join(answer.streaming_content)).read() == b"<script>alert(1)</script>"
    empty = SimpleUploadedFile("empty.png", b"")
    assert dispatcher.client.post(path, {"file": empty}).status_code == 422
