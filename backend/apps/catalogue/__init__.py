"""Job types: the templates of routine work."""
