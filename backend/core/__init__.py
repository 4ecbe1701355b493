"""The computation of Iron Relay: no Django, no SQL, no HTTP, no files, no wall clock."""
