"""The company itself: name, time zone, areas, depots."""
