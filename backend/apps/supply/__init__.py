"""What is missing, and how it comes: tomorrow's check, purchase orders, requests, returns, loans."""
