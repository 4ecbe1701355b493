"""What is planned: visits, technicians' days, a plan, and the playbook it is weighed by."""
