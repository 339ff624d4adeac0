"""The rules of the cut, one file a chapter, in the order of the work."""

from __future__ import annotations

from typing import Final

from dapwick.core.plan.rule import Chapter, Rule
from dapwick.core.plan.rules.before import BEFORE
from dapwick.core.plan.rules.blending import BLENDING
from dapwick.core.plan.rules.checking import CHECKING
from dapwick.core.plan.rules.ears import EARS
from dapwick.core.plan.rules.eyes import EYES
from dapwick.core.plan.rules.finding_head import FINDING_HEAD
from dapwick.core.plan.rules.jaw_cheeks import JAW_CHEEKS
from dapwick.core.plan.rules.muzzle import MUZZLE
from dapwick.core.plan.rules.setting_in import SETTING_IN
from dapwick.core.plan.rules.top import TOP

CHAPTERS: Final[tuple[Chapter, ...]] = (
    BEFORE, FINDING_HEAD, SETTING_IN, EYES, MUZZLE, JAW_CHEEKS, EARS, TOP, BLENDING, CHECKING,
)  # fmt: skip
RULES: Final[dict[str, Rule]] = {rule.id: rule for chapter in CHAPTERS for rule in chapter.rules}
