"""Work that another system already has: a file of it, read row by row."""
