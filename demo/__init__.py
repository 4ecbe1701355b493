"""The made-up world of the demo: the city of Varnholm and the company that works in it."""
