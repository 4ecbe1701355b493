"""The planner's own process: compiled kernels and the current world, kept warm. Nothing else imports it."""
