"""Quotes: what work will cost, agreed before anybody drives."""
