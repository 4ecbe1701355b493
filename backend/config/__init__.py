"""How the parts are put together: settings, addresses, the API."""
