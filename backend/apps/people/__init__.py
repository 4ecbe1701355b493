"""Accounts and technicians: who signs in, who can do what, who works when."""
