"""The board: days of technicians judged by the core, placing, sending, undoing."""
