"""Work orders and their visits."""
