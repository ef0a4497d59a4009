"""Letters of one's own: the points of a figure called otherwise, on the sheet and in every sentence. Names in the record, in
files and in JSON stay."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from functools import lru_cache
from typing import TypeAlias

from wisecompass.drafting.errors import BadGiven

Letters: TypeAlias = tuple[tuple[str, str], ...]
"""(letter, what it is called instead), both capitals; small letters of views follow."""

SHORT_WORDS = frozenset(("an", "as", "at", "be", "by", "ft", "go", "in", "is", "it", "mm", "no", "of", "on", "or", "so"))
SHORT_WORDS |= {"to", "up"}
"""Words of two small letters that are no names of lines, and units; three small letters are always a word."""

ABBREVIATIONS = frozenset(("HP", "VP", "XY", "HT", "VT", "ISO", "PDF"))

_AFTER = """again along and anticlockwise are as at back clockwise down downwards from go in inwards is lies meets no on or
    outwards stands that till to towards up upwards where"""
AFTER_A_LETTER = frozenset(_AFTER.split())
"""What follows the letter A where it might be the article; before anything else it is that."""

_TOKEN = re.compile(r"(?<![A-Za-z0-9])([A-Za-z]{1,3})(?=[₀-₉⁰¹²³⁴-⁹0-9′″]|(?![A-Za-z]))")
_LINED_IN = re.compile(r"Line in [^.]*$")
_READ = re.compile(r"\s*([^\W\d_])\s*=\s*([^\W\d_])\s*")


def read_letters(text: str) -> Letters:
    """Letters as somebody types them: ``A=K, B=L``.

    Raises:
        BadGiven: it is written otherwise, or two letters become one.
    """
    found: dict[str, str] = {}
    for piece in filter(str.strip, text.split(",")):
        match = _READ.fullmatch(piece)
        if match is None:
            raise BadGiven("letters", f"letters “{piece.strip()[:40]}”: write A=K, B=L", "")
        found[match[1].upper()] = match[2].upper()
    if len(set(found.values())) < len(found):
        raise BadGiven("letters", "two letters would become one", "")
    return tuple(sorted((old, new) for old, new in found.items() if old != new))


def require_free(letters: Letters, names: Iterable[str]) -> None:
    """Raise where a new letter is another point's already; ``names`` are those of all points.

    Raises:
        BadGiven: it is; the sentence says which.
    """
    old = dict(letters)
    used = {name[0].upper() for name in names if name[:1].isalpha()}
    taken = sorted(new for new in old.values() if new in used and new not in old)
    if taken:
        raise BadGiven("letters", f"{taken[0]} is another point of this figure already", "")


def renamed(letters: Letters, text: str) -> str:
    """A sentence, or the name of a point or line, with the letters of one's own."""
    return _renamed(letters, text) if letters and text else text


@lru_cache(maxsize=4096)
def _renamed(letters: Letters, text: str) -> str:
    named = dict(letters)
    return _TOKEN.sub(lambda found: _token(named, text, found), text)


def _token(named: Mapping[str, str], text: str, found: re.Match[str]) -> str:
    token, after = found[1], text[found.end() :]
    marked = after[:1] != "" and after[0] in "₀₁₂₃₄₅₆₇₈₉⁰¹²³⁴⁵⁶⁷⁸⁹0123456789′″"
    small = token.lower()
    drawn = _LINED_IN.search(text[: found.start()]) is not None  # a list of lines, and no plane of projection among them
    if (token in ABBREVIATIONS and not (drawn and token in ("HP", "VP"))) or after.startswith("-square"):
        return token
    is_word = len(token) == 3 or (small in SHORT_WORDS and not _ends_a_list(token, after))
    if not marked and not token.isupper() and is_word:
        return token
    if token in ("A", "a") and not marked and _is_article(text, found.start(), after):
        return token
    if token in ("x", "y") and text[: found.start()].rstrip().endswith(("point", "centre", "offset")):
        return token  # what a brief states
    return "".join(named.get(c, c) if c.isupper() else named.get(c.upper(), c.upper()).lower() for c in token)


def _ends_a_list(token: str, after: str) -> bool:
    """Whether what might be a short word is the name of a line: no such word stands before a stop."""
    return token in ("an", "as", "at", "be", "by", "or", "so") and after[:1] in (",", ".", ";", ":")


def _is_article(text: str, start: int, after: str) -> bool:
    """Whether an A that stands alone is the article: before a word that does not follow a point's letter."""
    word = re.match(r" ([a-zé]+)", after)
    if word is None:
        return False
    if text[start] == "A" and start > 0 and not text[:start].rstrip().endswith((".", ":", "!", "?")):
        return False  # a capital within a sentence is a letter
    before = text[:start].split()[-1:] or [""]
    if word[1] == "square" and before[0] in ("from", "at", "through"):
        return False
    return word[1] not in AFTER_A_LETTER
