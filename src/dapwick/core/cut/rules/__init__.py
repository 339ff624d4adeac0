"""The rules of the cut, one file a chapter, in the order of the work."""

from __future__ import annotations

from typing import Final

from dapwick.core.cut.rule import Chapter, Rule
from dapwick.core.cut.rules.before import BEFORE
from dapwick.core.cut.rules.blending import BLENDING
from dapwick.core.cut.rules.checking import CHECKING
from dapwick.core.cut.rules.ears import EARS
from dapwick.core.cut.rules.eyes import EYES
from dapwick.core.cut.rules.finding_head import FINDING_HEAD
from dapwick.core.cut.rules.jaw_cheeks import JAW_CHEEKS
from dapwick.core.cut.rules.muzzle import MUZZLE
from dapwick.core.cut.rules.setting_in import SETTING_IN
from dapwick.core.cut.rules.this_coat import THIS_COAT
from dapwick.core.cut.rules.top import TOP

CHAPTERS: Final[tuple[Chapter, ...]] = (
    BEFORE, THIS_COAT, FINDING_HEAD, SETTING_IN, EYES, MUZZLE, JAW_CHEEKS, EARS, TOP, BLENDING, CHECKING,
)  # fmt: skip
RULES: Final[dict[str, Rule]] = {rule.id: rule for chapter in CHAPTERS for rule in chapter.rules}
