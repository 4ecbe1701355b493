"""Starting, testing and checking the project: what `./relay` does."""
