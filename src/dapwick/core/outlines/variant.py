"""A salon's own variant of a family: other defaults, other schools, its own name; an open document.

{"format": "dapwick-outline", "version": 1, "based_on": "round", "name": "Harbour round",
 "parameters": {"visor_mm": 6.0}, "schools": {"fringe": "straight"}}
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Final

from dapwick.core.basics.errors import BadInput
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.family import FULLNESS, Family, settle_schools

FORMAT: Final = "dapwick-outline"
VERSION: Final = 1
LONGEST_NAME: Final = 60


@dataclass(frozen=True)
class Variant:
    """parameters: defaults that differ from the family's, by id; schools: choices that differ."""

    name: str
    based_on: str
    parameters: Mapping[str, float] = field(default_factory=dict)
    schools: Mapping[str, str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if not self.name.strip() or len(self.name) > LONGEST_NAME:
            raise BadInput(
                "the outline needs a name",
                expected=f"1 to {LONGEST_NAME} letters",
                got=self.name[:80],
                where="name",
            )
        if self.based_on not in FAMILIES:
            raise BadInput(
                "unknown outline", expected=", ".join(FAMILIES), got=self.based_on, where="based_on"
            )
        base = FAMILIES[self.based_on]
        base.checked(self.parameters)
        settle_schools(base, self.schools)

    def family(self, key: str) -> Family:
        """The variant as a family of its own under `key`."""
        base = FAMILIES[self.based_on]
        return replace(
            base,
            id=key,
            name=self.name,
            based_on=base.shape_id,
            parameters=tuple(
                replace(p, default=float(self.parameters.get(p.id, p.default))) if p.id != FULLNESS else p
                for p in base.parameters
            ),
            schools=tuple(replace(s, default=self.schools.get(s.id, s.default)) for s in base.schools),
        )

    def document(self) -> dict[str, Any]:
        return {
            "format": FORMAT,
            "version": VERSION,
            "name": self.name,
            "based_on": self.based_on,
            "parameters": dict(self.parameters),
            "schools": dict(self.schools),
        }


def read_variant(document: Any) -> Variant:
    """A variant from its document; what is wrong is told by field."""
    if not isinstance(document, Mapping) or document.get("format") != FORMAT:
        got = (
            document.get("format", "no format") if isinstance(document, Mapping) else type(document).__name__
        )
        raise BadInput("not an outline's file", expected=FORMAT, got=str(got)[:40], where="format")
    if document.get("version") != VERSION:
        raise BadInput(
            "made by another version",
            expected=str(VERSION),
            got=str(document.get("version"))[:20],
            where="version",
        )
    parameters, schools = document.get("parameters", {}), document.get("schools", {})
    for part, where in ((parameters, "parameters"), (schools, "schools")):
        if not isinstance(part, Mapping):
            raise BadInput(where, expected="names and values", got=type(part).__name__, where=where)
    numbers = {str(k): _number(k, v) for k, v in parameters.items()}
    return Variant(
        str(document.get("name", "")).strip(),
        str(document.get("based_on", "")),
        {k: v for k, v in numbers.items() if k != FULLNESS},
        {str(k): str(v) for k, v in schools.items()},
    )


def _number(key: Any, value: Any) -> float:
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        raise BadInput(str(key), expected="a number", got=str(value)[:40], where="parameters")
    return float(value)
