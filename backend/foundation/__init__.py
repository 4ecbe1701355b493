"""What every capability stands on: errors, audit, clock, live changes. No business words."""
