"""The region: its road network, addresses and map. Keeps no tables, only computed travel times."""
