"""Everything in one archive, and an empty installation filled from one."""

import io
import json
import zipfile
from datetime import timedelta

import pytest
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection, transaction
from django.test import Client

from apps.company.models import Company
from apps.customers.models import Customer
from apps.orders.models import WorkOrder
from apps.people.models import Account, Technician
from apps.set_up import archive
from apps.set_up.archive import tables
from apps.set_up.archive.working import read_archive, write_archive
from apps.set_up.models import Archive
from core.roles import Role
from foundation import clock, files
from foundation.errors import Conflict, Rejected
from tests.apps.conftest import Api

pytestmark = pytest.mark.django_db(transaction=True)


def everything():
    """All rows of all tables of the company, by table."""
    found = {}
    with connection.cursor() as cursor:
        for table in tables.tables():
            cursor.execute(f"SELECT {table.list} FROM {table.quoted} ORDER BY 1")
            found[table.name] = [tuple(map(repr, row)) for row in cursor.fetchall()]
    return found


@pytest.fixture
def full(world, dispatcher, settings, tmp_path):
    """A company in which something of many kinds has happened."""
    settings.MEDIA_ROOT = tmp_path / "files"
    visit = world.visit()
    dispatcher.post(f"/visits/{visit.pk}/place", {"version": 1, "technician_id": world.ines.pk, "start": 1795438800})
    Customer.objects.filter(pk=world.customer.pk).update(name='Ō’Brien; “quoted”, "twice"\nand \\N lines')
    WorkOrder.objects.filter(pk=visit.order_id).update(tags=["a,b", 'c"d', ""])
    files.keep(
        actor=world.accounts["dispatcher"], record="customer", record_id=world.customer.pk, name="plan.txt",
        content=b"the plan", now=clock.now(),
    )  # fmt: skip
    return world


@pytest.fixture
def written(full):
    file = io.BytesIO()
    write_archive(file)
    return file


def test_what_comes_out_goes_in_again_equal_in_every_table(full, written):
    before = everything()
    assert before["orders_visit"], "something to lose"
    assert before["foundation_auditentry"]
    Technician.objects.filter(pk=full.ivor.pk).update(name="Somebody else")
    Customer.objects.create(name="Not in the archive")
    Company.objects.update(name="Another company")
    added = files.keep(
        actor=full.accounts["dispatcher"], record="customer", record_id=full.customer.pk, name="later.txt",
        content=b"added since", now=clock.now(),
    )  # fmt: skip
    default_storage.delete(files.of("customer", full.customer.pk)[0].content.name)
    rows = read_archive(written)
    after = everything()
    assert {name for name in before if before[name] != after[name]} == set()
    assert rows == sum(len(found) for found in before.values())
    assert files.of("customer", full.customer.pk)[0].content.read() == b"the plan"
    assert not default_storage.exists(added.content.name)  # what no row refers to is gone


def test_work_goes_on_after_it_with_keys_of_its_own(full, written, as_role):
    read_archive(written)
    highest = Customer.objects.order_by("-pk").first().pk
    assert Customer.objects.create(name="New").pk > highest
    visit = full.visit()
    placed = as_role("dispatcher").post(
        f"/visits/{visit.pk}/place", {"version": 1, "technician_id": full.ivor.pk, "start": 1795438800}
    )
    assert placed.status_code == 200  # and what follows from writing follows again
    with connection.cursor() as cursor:
        cursor.execute("SELECT count(*) FROM pg_trigger WHERE NOT tgisinternal AND tgenabled = 'D'")
        assert cursor.fetchone() == (0,)


def test_every_table_is_in_the_archive_or_left_out_for_a_reason(world):
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT relname FROM pg_class WHERE relkind = 'r' AND relnamespace = current_schema()::regnamespace"
        )
        there = {name for (name,) in cursor.fetchall()}
    taken = {table.name for table in tables.tables()}
    assert there - taken == tables.LEFT_OUT & there
    assert {"people_account", "orders_visit", "mfa_authenticator", "foundation_auditentry"} <= taken


def damaged(written, change):
    out = io.BytesIO()
    with zipfile.ZipFile(written) as old, zipfile.ZipFile(out, "w") as new:
        for name in old.namelist():
            if (content := change(name, old.read(name))) is not None:
                new.writestr(name, content)
    return out


def other_version(name, content):
    if name != "archive.json":
        return content
    about = json.loads(content)
    return json.dumps(about | {"migrations": about["migrations"] | {"orders": "0001_initial"}}).encode()


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda name, content: None if name == "archive.json" else content, "no archive of a company"),
        (lambda name, content: None if name == "tables/orders_visit.csv" else content, "damaged"),
        (other_version, "another version"),
    ],
)
def test_what_is_no_whole_archive_changes_nothing(full, written, change, words):
    before = everything()
    with pytest.raises(Rejected, match=words):
        read_archive(damaged(written, change))
    with pytest.raises(Rejected, match="no archive"):
        read_archive(io.BytesIO(b"not a zip file at all"))
    assert everything() == before


def test_rows_that_do_not_belong_together_change_nothing(full, written):
    """A visit whose order is missing: refused when the references are checked, and all is as it was."""
    before = everything()

    def change(name, content):
        return content.split(b"\n", 1)[0] + b"\n" if name == "tables/orders_workorder.csv" else content

    with pytest.raises(Rejected, match="do not belong together"):
        read_archive(damaged(written, change))
    assert everything() == before


def test_a_name_that_leads_elsewhere_is_not_written(full, written, tmp_path):
    [kept] = files.of("customer", full.customer.pk)
    outside = "../../outside.txt"

    def change(name, content):
        if name == "tables/foundation_storedfile.csv":
            return content.replace(kept.content.name.encode(), outside.encode())
        return content

    bad = damaged(written, change)
    with zipfile.ZipFile(bad, "a") as zipped:
        zipped.writestr(f"files/{outside}", b"gotcha")
    read_archive(bad)
    assert not list(tmp_path.parent.glob("outside.txt")) + list(tmp_path.glob("outside.txt"))


def sent(api, content, size=1000):
    """Bring an archive in, in parts."""
    for at in range(0, len(content), size):
        file = SimpleUploadedFile("part", content[at : at + size])
        api.client.post("/api/v1/uploads/0123-abcd", {"at": at, "file": file})
    return api.post("/set-up/archives/brought", {"key": "0123-abcd"})


def test_a_company_moves_into_an_empty_installation(full, written, as_role, rf):
    admin = as_role("administrator")
    assert sent(admin, written.getvalue()).json()["field"] == "file"  # somebody works here
    asked = admin.post("/set-up/archives").json()
    archive.make(asked["id"])
    listed = admin.get("/set-up/archives").json()
    assert [(row["state"], row["can_be_taken"]) for row in listed["archives"]] == [("done", True)]
    taken = b"".join(admin.get(f"/set-up/archives/{asked['id']}").streaming_content)
    before = everything()
    with transaction.atomic(), tables.emptied(tables.tables()):
        pass
    owner = Account.objects.create_account(
        email="new@owner.example", name="New Owner", role=Role.ADMINISTRATOR, password="a-long-enough-password"
    )
    client = Client(HTTP_HOST="127.0.0.1")
    client.force_login(owner, backend="apps.accounts.backends.AccountBackend")
    brought = sent(Api(client), taken)
    assert brought.status_code == 201
    archive.take(brought.json()["id"])
    assert Archive.objects.get(way="in").state == "done"
    assert client.get("/api/v1/session").json()["account"] is None  # who brought it in signs in anew
    # All but the note that the archive was asked for, which was written before it.
    assert everything() == before
    assert not Account.objects.filter(email="new@owner.example").exists()


def test_what_somebody_has_begun_meanwhile_is_not_lost(full, written):
    """Asked for while nobody worked here, taken up when somebody does."""
    row = Archive(way="in", asked_at=clock.now(), asked_by="x", moved_at=clock.now())
    row.content.save("x.zip", ContentFile(written.getvalue()), save=True)
    before = everything()
    archive.take(row.pk)
    row.refresh_from_db()
    assert (row.state, "begun to work here" in row.failure) == ("failed", True)
    assert everything() == before


def test_whatever_goes_wrong_is_said(world, monkeypatch, settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path

    def full_disk(*_args):
        raise OSError("No space left on device")

    monkeypatch.setattr("apps.set_up.archive.working.write_archive", full_disk)
    row = archive.ask_for_archive(actor=world.accounts["administrator"], now=clock.now())
    archive.make(row.pk)
    row.refresh_from_db()
    assert (row.state, row.failure) == ("failed", "It failed: No space left on device.")
    archive.ask_for_archive(actor=world.accounts["administrator"], now=clock.now())  # and another one may be made


def test_a_damaged_one_says_why_it_failed(world, settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path
    row = Archive(way="in", asked_at=clock.now(), asked_by="x", moved_at=clock.now())
    row.content.save("x.zip", ContentFile(b"nothing"), save=True)
    archive.take(row.pk)
    row.refresh_from_db()
    assert (row.state, row.failure) == ("failed", "This is no archive, or it is damaged.")


def test_one_is_made_at_a_time_and_lost_ones_are_taken_up(world, as_role):
    admin = world.accounts["administrator"]
    first = archive.ask_for_archive(actor=admin, now=clock.now())
    with pytest.raises(Conflict):
        archive.ask_for_archive(actor=admin, now=clock.now())
    Archive.objects.filter(pk=first.pk).update(state="running")
    assert archive.sweep(now=clock.now() + timedelta(hours=2)) == 1
    archive.ask_for_archive(actor=admin, now=clock.now())


def test_only_administrators_take_everything_away(world, as_role):
    for role in (Role.MANAGER, Role.DISPATCHER, Role.REVIEWER):
        assert as_role(role.value).post("/set-up/archives").status_code == 403
        assert as_role(role.value).get("/set-up/archives").status_code == 403
        assert as_role(role.value).get("/set-up/archives/1").status_code == 403
