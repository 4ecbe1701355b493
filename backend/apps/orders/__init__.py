"""Work orders and their visits, and bringing in open work from a file."""
