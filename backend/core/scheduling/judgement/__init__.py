"""What a placement or a proposal means, in words."""
