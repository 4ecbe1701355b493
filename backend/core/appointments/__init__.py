"""Which times can be offered and kept, who could go at once, and how many hours are left.

`finder` brings the compiler and is imported by the planner's process only.
"""
