"""Customers, their sites, contacts and assets."""
