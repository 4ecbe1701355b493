"""Scheduling: what stands on technicians' days, what a placement means, playbooks, and runs of the planner."""
