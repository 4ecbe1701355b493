"""Appointments: times offered, promised and kept; urgent work; hours that are left."""
