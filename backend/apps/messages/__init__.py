"""Messages to technicians and customers: listens to what happens to visits, and sends by a simulated gateway."""
