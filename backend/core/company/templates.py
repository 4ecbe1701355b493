"""Texts with words to fill in, as {name}: messages to customers, numbers of orders."""

import re
from collections.abc import Collection, Mapping

_WORD = re.compile(r"\{([a-z_]+)\}")

# What each text of the settings may hold.
TEMPLATES: Mapping[str, tuple[str, ...]] = {
    "message_promised": ("company", "customer", "order", "site", "window", "job"),
    "message_standby": ("company", "customer", "order", "site", "window", "job"),
    "message_received": ("company", "customer", "request"),
    "message_sent": ("company", "customer", "order", "site", "window", "technician", "job"),
    "message_on_the_way": ("company", "customer", "order", "site", "technician", "job"),
    "message_cancelled": ("company", "customer", "order", "site", "window", "job"),
    "order_number": ("number", "year"),
    "request_number": ("number", "year"),
}


def unknown_words(text: str, known: Collection[str]) -> list[str]:
    """Words in braces that nothing fills in, in order of appearance; broken braces count too."""
    found = [word for word in _WORD.findall(text) if word not in known]
    if re.search(r"[{}]", _WORD.sub("", text)):
        found.append("{…}")
    return found


def fill_in(text: str, words: Mapping[str, str]) -> str:
    """The text with its words filled in; a word that is not known stays as it is, so that it is seen."""
    return _WORD.sub(lambda match: words.get(match[1], match[0]), text)
