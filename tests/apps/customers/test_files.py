"""Customers from files and into files: previewed, by the same rules as by hand, out and in again the same."""

import csv
import io
from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from apps.company.models import Tag
from apps.customers import importing
from apps.customers.importing import bringing, reading
from apps.customers.models import Asset, Contact, Customer, CustomerFile, Site
from apps.customers.queries import find
from apps.customers.search import make_findable
from foundation.models import AuditEntry

pytestmark = pytest.mark.django_db


def upload(api, kind, text, name="file.csv"):
    file = SimpleUploadedFile(name, text.encode())
    row = api.client.post(f"/api/v1/customers/import/of/{kind}", {"file": file}).json()
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
    assert (made.phone_key, made.tags) == ("+351296100200", ["key-account", "warranty"])
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
        ("customers", "", "The file is empty"),
        ("customers", "\x01\x02\x03\x04\x05\x06", "not a text file"),
        ("contacts", "BEGIN:VCARD\nrubbish", "vCard file"),
    ],
)
def test_a_file_that_is_none_says_so(world, dispatcher, kind, text, says):
    if not text:
        text = "\n"
    file = upload(dispatcher, kind, text)
    assert file["state"] == "failed"
    assert says in file["failure"] or "There is no contact" in file["failure"]


# --- by the same rules as by hand -----------------------------------------------------------------


def accept(api, row):
    answer = api.post(f"/customers/import/{row['id']}/accept")
    assert answer.status_code == 200, answer.json()
    return answer.json()


def test_somebody_s_edit_meanwhile_is_not_overwritten(world, dispatcher, as_role):
    row = upload(dispatcher, "customers", "name,phone,email\nSeagate Stores,+351 296 9,new@seagate.example\n")
    fields = {"version": 1, "name": "Seagate Stores", "phone": "+351 296 777", "email": "office@seagate.example"}
    assert as_role("other").put(f"/customers/{world.customer.pk}", fields).status_code == 200
    file = bring_in(dispatcher, row)
    assert file["outcome"] == {"refused": 1}
    [refused] = file["refused"]
    assert refused["problems"] == ["Other Dispatcher changed phone meanwhile: read the file again"]
    world.customer.refresh_from_db()
    assert (world.customer.phone, world.customer.email) == ("+351 296 777", "office@seagate.example")


def test_only_what_differs_is_written_with_a_version_and_an_entry_in_the_history(world, dispatcher):
    bring_in(dispatcher, upload(dispatcher, "customers", "name,email,tags\nSeagate Stores,i@seagate.example,gold\n"))
    world.customer.refresh_from_db()
    assert (world.customer.version, world.customer.phone) == (2, "+351 296 555 100")
    [entry] = AuditEntry.objects.filter(entity="customer", entity_id=world.customer.pk)
    assert (entry.sentence, entry.version, entry.actor_name) == (
        "changed email, tags from a file", 2, "The dispatcher",
    )  # fmt: skip
    assert entry.changes["values"]["email"] == ["office@seagate.example", "i@seagate.example"]


def test_a_tag_that_nobody_has_used_is_said_before_and_made_only_with_a_row_that_comes_in(world, dispatcher):
    lines = 'name,email,tags\nSeagate Stores,i@seagate.example,Gold\nNew One,,"gold, warranty"\nBad,nowhere,Silver\n'
    file = upload(dispatcher, "customers", lines)
    notes = {row["line"]: row["notes"] for row in file["rows"]}
    assert notes[2] == ["makes the tag Gold", "changes email, tags"]
    assert notes[3] == ["makes the tag Gold"]
    assert not Tag.objects.filter(name__iexact="gold").exists()
    bring_in(dispatcher, file)
    assert {tag.name for tag in Tag.objects.filter(code__in=["gold", "silver"])} == {"Gold"}
    world.customer.refresh_from_db()
    assert world.customer.tags == ["gold"]
    assert Customer.objects.get(name="New One").tags == ["gold", "warranty"]


def test_whom_somebody_made_by_hand_meanwhile_is_not_made_twice(world, dispatcher):
    row = upload(dispatcher, "customers", "name\nMarram Foods\nNew One\n")
    dispatcher.post("/customers", {"name": "marram foods"})
    file = bring_in(dispatcher, row)
    # What the matching sees now is the one made by hand: nothing of it differs.
    assert file["outcome"] == {"same": 1, "new": 1}
    assert Customer.objects.filter(name__iexact="marram foods").count() == 1


def many(count: int) -> str:
    return "name\n" + "".join(f"Customer {number}\n" for number in range(count))


def test_who_dies_half_way_is_followed_by_another_who_goes_on_there(world, dispatcher, monkeypatch):
    monkeypatch.setattr(bringing, "BATCH", 10)
    row = upload(dispatcher, "customers", many(35))
    accept(dispatcher, row)
    batches = []

    def dies_in_the_third(ids):
        batches.append(ids)
        if len(batches) == 3:
            raise KeyboardInterrupt
        make_findable(ids)

    monkeypatch.setattr(bringing, "make_findable", dies_in_the_third)
    with pytest.raises(KeyboardInterrupt):
        importing.bring_in(row["id"])
    file = CustomerFile.objects.get()
    assert (file.state, file.position, Customer.objects.count()) == ("importing", 20, 21)
    importing.bring_in(row["id"])
    file.refresh_from_db()
    assert (file.state, file.position, file.outcome) == ("done", 35, {"new": 35})
    assert Customer.objects.count() == 36


def test_a_file_is_stopped_and_goes_on_later(world, dispatcher, monkeypatch):
    monkeypatch.setattr(bringing, "BATCH", 10)
    row = upload(dispatcher, "customers", many(25))
    accept(dispatcher, row)

    def asked_after_the_first(ids):
        make_findable(ids)
        CustomerFile.objects.update(stop_asked=True)

    monkeypatch.setattr(bringing, "make_findable", asked_after_the_first)
    importing.bring_in(row["id"])
    file = dispatcher.get(f"/customers/import/{row['id']}").json()
    assert (file["state"], file["outcome"]) == ("stopped", {"new": 10})
    monkeypatch.setattr(bringing, "make_findable", make_findable)
    assert bring_in(dispatcher, row)["outcome"] == {"new": 25}


@pytest.mark.parametrize("step", ["read", "bring_in"])
def test_whatever_goes_wrong_the_file_says_that_it_failed(world, dispatcher, monkeypatch, step):
    def broken(*_anything):
        raise RuntimeError("the disk is full")

    if step == "read":
        monkeypatch.setattr(reading, "rows_of", broken)
        file = upload(dispatcher, "customers", many(2))
    else:
        row = upload(dispatcher, "customers", many(2))
        monkeypatch.setattr(bringing, "make_findable", broken)
        file = bring_in(dispatcher, row)
    assert file["state"] == "failed"
    assert file["failure"].startswith("It failed: the disk is full.")


def test_a_file_whose_job_was_lost_is_taken_up_again(world, dispatcher, now):
    upload_only = SimpleUploadedFile("a.csv", b"name\nA\n")
    dispatcher.client.post("/api/v1/customers/import/of/customers", {"file": upload_only})
    assert importing.sweep(now=now) == 0
    assert importing.sweep(now=now + timedelta(minutes=5)) == 1


def test_headings_are_guessed_corrected_and_remembered(world, dispatcher):
    text = "Firm;Telefon;Shoe size\nMarram Foods;296 100 200;44\n"
    file = upload(dispatcher, "customers", text)
    assert file["state"] == "columns"
    assert file["failure"] == "Say which column is name; the first line names Firm, Telefon, Shoe size."
    assert file["columns"] == {"Firm": "", "Telefon": "", "Shoe size": ""}
    path = f"/customers/import/{file['id']}/columns"
    assert dispatcher.post(path, {"columns": {"Firm": "nonsense"}}).status_code == 422
    assert dispatcher.post(path, {"columns": {"Firm": "name", "Telefon": "name"}}).status_code == 422
    assert dispatcher.post(path, {"columns": {"Firm": "name", "Telefon": "phone"}}).json()["state"] == "reading"
    importing.read(file["id"])
    bring_in(dispatcher, file)
    assert Customer.objects.get(name="Marram Foods").phone_key == "+351296100200"
    again = upload(dispatcher, "customers", text)
    assert (again["state"], again["counts"]) == ("read", {"same": 1, "unknown": ["Shoe size"]})


def test_refused_rows_come_back_as_a_file_to_be_mended_and_sent_again(world, dispatcher):
    file = upload(dispatcher, "customers", CUSTOMERS)
    text = body_of(dispatcher.get(f"/customers/import/{file['id']}/refused.csv"))
    lines = list(csv.reader(io.StringIO(text.lstrip("\ufeff"))))
    assert lines[0] == ["name", "phone", "email", "tags", "colour", "refused because"]
    assert lines[2] == ["Bad Mail", "", "not-an-address", "", "", "“not-an-address” is no e-mail address"]
    assert len(lines) == 4
    mended = upload(dispatcher, "customers", text.replace("not-an-address", "bad@mail.example"))
    assert mended["counts"]["new"] == 2


def test_a_file_of_a_spreadsheet_comes_in_whatever_its_character_set(world, dispatcher):
    for name in ("utf-16", "cp1252"):
        file = SimpleUploadedFile("a.csv", f"name\tphone\nTür {name}\t1\n".encode(name))
        row = dispatcher.client.post("/api/v1/customers/import/of/customers", {"file": file}).json()
        importing.read(row["id"])
        bring_in(dispatcher, row)
        assert Customer.objects.filter(name=f"Tür {name}").exists()


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
    points = body_of(dispatcher.get("/sites.geojson"))
    assert '"Seagate Hall"' in points
    again = dispatcher.client.post(
        "/api/v1/sites.geojson", {"file": SimpleUploadedFile("sites.geojson", points.encode())}
    ).json()
    assert again == {"made": 0, "problems": ["feature 1: Seagate Stores has a site Seagate Hall already"]}


def test_a_formula_in_a_name_goes_out_as_text(world, dispatcher):
    Customer.objects.create(name="=cmd()")
    assert "'=cmd()" in body_of(dispatcher.get("/customers/export/customers.csv"))


def test_files_of_a_record_are_kept_and_only_plain_ones_shown(world, dispatcher, settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path
    path = f"/api/v1/files/customer/{world.customer.pk}"
    page = SimpleUploadedFile("../x.html", b"<script>alert(1)</script>", content_type="text/html")
    row = dispatcher.client.post(path, {"file": page}).json()
    assert row["name"] == "x.html"
    answer = dispatcher.client.get(f"/api/v1/files/{row['id']}")
    assert answer["Content-Type"] == "application/octet-stream"
    assert answer["Content-Disposition"].startswith("attachment")
    assert io.BytesIO(b"".join(answer.streaming_content)).read() == b"<script>alert(1)</script>"
    empty = SimpleUploadedFile("empty.png", b"")
    assert dispatcher.client.post(path, {"file": empty}).status_code == 422
