"""Taking requests: who, where, what is wrong, what was promised."""
