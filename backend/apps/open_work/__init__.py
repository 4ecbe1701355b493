"""Open work from a file: shown row by row what it would make, then made whole or not at all."""
