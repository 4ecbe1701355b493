"""Makes the region of the demo from a seed: coast, rivers, roads, areas."""
