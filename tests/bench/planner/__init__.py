"""The planner against its bars, with two general-purpose routing libraries as peers."""
