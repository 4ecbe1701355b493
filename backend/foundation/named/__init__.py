"""Things a company names itself: skills, certificates, parts, tags.

Whatever refers to one holds its key, which never changes; its name may.
"""

from foundation.named.rows import Named, called, key_for, keys_by_name, names, resolved
from foundation.named.uses import Use, in_amounts, in_json_list, in_levels, in_list, used

__all__ = [
    "Named",
    "Use",
    "called",
    "in_amounts",
    "in_json_list",
    "in_levels",
    "in_list",
    "key_for",
    "keys_by_name",
    "names",
    "resolved",
    "used",
]
