"""Setting a company up at once: from files, from an archive, or with an example."""
