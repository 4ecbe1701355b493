"""Large files that come in parts."""

import os

import pytest

from foundation import parts
from foundation.errors import Conflict, NotFound

KEY = "0123-abcd"


@pytest.fixture
def owner(world, settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path
    return world.accounts["administrator"]


def test_parts_make_the_file_whole_and_may_come_twice(owner):
    assert parts.add(actor=owner, key=KEY, at=0, content=b"one ") == 4
    assert parts.add(actor=owner, key=KEY, at=4, content=b"two") == 7
    assert parts.add(actor=owner, key=KEY, at=0, content=b"one ") == 7
    assert parts.add(actor=owner, key=KEY, at=4, content=b"two, three") == 14  # the rest of a part that was cut off
    assert parts.whole(actor=owner, key=KEY).read_bytes() == b"one two, three"


def test_a_part_after_a_missing_one_says_how_much_is_there(owner):
    parts.add(actor=owner, key=KEY, at=0, content=b"one")
    with pytest.raises(Conflict) as caught:
        parts.add(actor=owner, key=KEY, at=9, content=b"three")
    assert caught.value.current_version == 3


def test_nobody_gets_at_the_parts_of_somebody_else_or_at_another_file(world, owner):
    parts.add(actor=owner, key=KEY, at=0, content=b"mine")
    with pytest.raises(NotFound):
        parts.whole(actor=world.accounts["manager"], key=KEY)
    for key in ("../../etc/passwd", "..", "x", "0123/abcd"):
        with pytest.raises(NotFound):
            parts.add(actor=owner, key=key, at=0, content=b"x")


def test_what_was_given_up_is_thrown_away(owner):
    parts.add(actor=owner, key=KEY, at=0, content=b"old")
    parts.add(actor=owner, key=KEY + "0", at=0, content=b"new")
    path = parts.whole(actor=owner, key=KEY)
    os.utime(path, (0, 0))
    assert parts.clear() == 1
    assert not path.exists()


def test_only_who_changes_settings_sends_large_files(world, dispatcher, settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path
    assert dispatcher.client.post(f"/api/v1/uploads/{KEY}", {"at": 0}).status_code == 403
