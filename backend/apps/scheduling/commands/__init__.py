"""What is done in scheduling: with playbooks, and with planning runs."""

from apps.scheduling.commands.playbooks import make_default, make_playbook, save_playbook
from apps.scheduling.commands.runs import accept, start_run, stop_run

__all__ = ["accept", "make_default", "make_playbook", "save_playbook", "start_run", "stop_run"]
