"""Versioned writes: a change says on top of what it was made; nobody overwrites what they have not seen.

A version is the hash of the content itself, so nothing can forget to count it up, and a change that was sent twice
because its answer was lost is no conflict: what it wanted is already there. It is the hash of whose content it is too:
a change that slept on a tablet while its dog went never lands on another one.
"""

from __future__ import annotations

from typing import Any, Final

from dapwick.core.basics.content_hash import hash_of
from dapwick.core.basics.errors import Conflict
from dapwick.documents.document import plain

SHORT: Final = 16


def version_of(content: Any, owner: str = "") -> str:
    """The name of a piece of content as it is now. owner: whose it is (a dog's uid, a photo's hash)."""
    return hash_of([owner, content] if owner else [content])[:SHORT]


def check_base(what: str, content: Any, wanted: Any, base: str | None, owner: str = "") -> None:
    """Refuse to lay `wanted` over content that is no longer what the change was made on. base: the version it was
    made on; None where nobody says, then the last word counts."""
    if base is None or plain(content) == plain(wanted):
        return
    version = version_of(content, owner)
    if version != base:
        raise Conflict(what, plain(content), version)
