"""Technicians' days beside their visits: on and off the clock, vehicle, breaks, fuel."""
