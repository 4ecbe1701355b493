"""Accounts: who may sign in, with which role, and how they prove who they are."""
