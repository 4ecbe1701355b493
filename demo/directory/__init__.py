"""A stand-in for a company's directory: an OpenID Connect provider of the demo's people.

It asks for no password, as the demo's are public; everything else goes as with a real one: discovery, authorization
code with PKCE, token, user info (OpenID Connect Core 1.0, OpenID Connect Discovery 1.0, RFC 7636).
"""
