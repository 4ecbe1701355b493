"""The company of the demo: its people, customers and a running week. The same seed gives the same world."""
