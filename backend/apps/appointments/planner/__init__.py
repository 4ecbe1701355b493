"""What the planner's process answers about appointments; only that process imports it."""
