"""Which written words a misspelt one may mean: by swapped, dropped, doubled and neighbouring letters, and by sound.

Nearness is the Damerau-Levenshtein distance (Damerau 1964; restricted form), as a share of the longer word, on letters
and on a rough code of how English sounds; the better of the two counts.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass, field

from rapidfuzz import process
from rapidfuzz.distance import OSA

# Below this nearness (0-1) a word is not meant.
LEAST_NEAR = 0.6
CANDIDATES = 6
# A beginning that was typed so far: nearly as good as the word.
BEGUN = 0.92
LEAST_BEGUN = 4
# Sounding alike is a little less than being written alike.
BY_SOUND = 0.95

_SOUNDS = (
    (r"ph", "f"), (r"gh(?=t|$)", ""), (r"ck", "k"), (r"c(?=[eiy])", "s"), (r"c", "k"), (r"qu", "kw"), (r"q", "k"),
    (r"x", "ks"), (r"z", "s"), (r"wr", "r"), (r"kn", "n"), (r"wh", "w"), (r"th", "t"), (r"sch", "sh"), (r"dg", "j"),
    (r"[aeiouy]+", "a"), (r"(.)\1+", r"\1"),
)  # fmt: skip


def sound_of(word: str) -> str:
    """A rough code of how a word sounds; its first letter counts as it is spoken."""
    for pattern, replacement in _SOUNDS:
        word = re.sub(pattern, replacement, word)
    return word


@dataclass
class Vocabulary:
    """Words that occur somewhere, to be asked which of them was meant. Grows; is never shortened."""

    words: list[str] = field(default_factory=list)
    sounds: list[str] = field(default_factory=list)
    known: set[str] = field(default_factory=set)

    def add(self, words: Sequence[str]) -> None:
        for word in words:
            if word not in self.known:
                self.known.add(word)
                self.words.append(word)
                self.sounds.append(sound_of(word))

    def meant_by(self, typed: str) -> dict[str, float]:
        """Words that may be meant, with their nearness (1: the word itself), the nearest ones."""
        if len(typed) < 3 or any(letter.isdigit() for letter in typed):
            return {typed: 1.0}
        found: dict[str, float] = {typed: 1.0} if typed in self.known else {}
        for word, near, _index in process.extract(
            typed, self.words, scorer=OSA.normalized_similarity, limit=CANDIDATES, score_cutoff=LEAST_NEAR
        ):
            found[word] = max(found.get(word, 0.0), near)
        sound = sound_of(typed)
        if len(sound) >= 3:
            for _code, near, index in process.extract(
                sound, self.sounds, scorer=OSA.normalized_similarity, limit=CANDIDATES, score_cutoff=0.75
            ):
                word = self.words[index]
                letters = OSA.normalized_similarity(typed, word)
                found[word] = max(found.get(word, 0.0), BY_SOUND * (near + letters) / 2)
        found |= self._begun(typed, found)
        best = sorted(found.items(), key=lambda item: -item[1])[:CANDIDATES]
        return dict(best)

    def _begun(self, typed: str, found: dict[str, float]) -> dict[str, float]:
        """Words of which the beginning was typed, the last letter of it perhaps wrongly."""
        head = typed[: max(LEAST_BEGUN, len(typed) - 1)]
        if len(typed) < LEAST_BEGUN or typed in self.known:
            return {}
        begun = [word for word in self.words if word.startswith(head)]
        near = {word: BEGUN * (1 if word.startswith(typed) else 0.9) for word in begun}
        return {
            word: max(value, found.get(word, 0.0)) for word, value in sorted(near.items(), key=lambda i: len(i[0]))[:4]
        }
