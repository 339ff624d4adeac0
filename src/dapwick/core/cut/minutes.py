"""How long a step takes: a rule's usual minutes, drawn toward what this stylist's log says.

Logs of log(actual / expected) are pooled in two steps, as a normal with known spreads: the stylist's own pace over all
steps, then what a rule takes beyond that pace. Each mean is shrunk toward nothing by n / (n + (SPREAD / PRIOR)²), the
posterior mean of a normal mean under a normal prior. Times that cannot be one step's work (a tablet left lying) are
held at the ends of CREDIBLE, so that a few of them move little.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Final

SPREAD: Final = 0.5
"""σ of log(actual / expected) from step to step."""
PACE_PRIOR: Final = 0.3
RULE_PRIOR: Final = 0.4
CREDIBLE: Final = (0.2, 5.0)


@dataclass(frozen=True)
class Timed:
    """One step as it was worked: its rule, the rule's usual minutes, what it took."""

    rule: str
    usual_min: float
    took_min: float


@dataclass(frozen=True)
class Learned:
    """pace: the stylist's factor over all steps; by_rule: what a rule takes beyond it, and how many times seen."""

    pace: float = 1.0
    by_rule: Mapping[str, float] = field(default_factory=dict)
    steps: int = 0

    def minutes(self, rule: str, usual_min: float) -> float:
        return usual_min * self.pace * self.by_rule.get(rule, 1.0)


NOTHING_LEARNED: Final = Learned()


def learn(log: Sequence[Timed]) -> Learned:
    """What a log teaches; an empty one leaves the rules' own minutes."""
    logs: dict[str, list[float]] = {}
    for timed in log:
        if timed.usual_min > 0 and timed.took_min > 0:
            logs.setdefault(timed.rule, []).append(_credible(timed.took_min / timed.usual_min))
    everything = [x for some in logs.values() for x in some]
    pace = _shrunk(everything, PACE_PRIOR)
    by_rule = {rule: math.exp(_shrunk([x - pace for x in some], RULE_PRIOR)) for rule, some in logs.items()}
    return Learned(math.exp(pace), by_rule, len(everything))


def _credible(ratio: float) -> float:
    low, high = CREDIBLE
    return math.log(min(max(ratio, low), high))


def _shrunk(values: Sequence[float], prior: float) -> float:
    """Posterior mean of values whose own spread is SPREAD, under a prior around nothing."""
    if not values:
        return 0.0
    n = len(values)
    return sum(values) / n * n / (n + (SPREAD / prior) ** 2)
