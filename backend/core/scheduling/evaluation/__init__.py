"""What a plan comes to: timetables, limits that do not hold, costs, how safe a promise is."""
