"""The capabilities, lowest first: company, roads, people, customers, catalogue, intake, orders, planning, field.

Messages listens to them.
"""
