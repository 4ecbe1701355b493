"""What lies where: so far, the parts on technicians' vans."""
