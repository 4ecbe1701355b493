"""The technician's phone: own visits, one step at a time. Keeps no tables of its own yet."""
