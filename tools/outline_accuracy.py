"""Write docs/outline-accuracy.md: planned lengths and finished silhouettes against the simulated dogs' truth.

.venv/bin/python tools/outline_accuracy.py [--cut]     # --cut wants the extra `dogs`; some minutes
"""

from __future__ import annotations

import sys
from pathlib import Path

from plan_truth import plan_report

OUT = Path(__file__).parents[1] / "docs" / "outline-accuracy.md"
KEPT = "## Cut to plan and looked at"
HEAD = [
    "# Outlines against the truth",
    "",
    "Written by `tools/outline_accuracy.py`. No real dog has been measured or cut with it.",
    "",
]


def main() -> None:
    if "--cut" in sys.argv:
        from cut_check import cut_report

        cut = cut_report()
    else:
        before = OUT.read_text() if OUT.is_file() else ""
        cut = before[before.index(KEPT) :].splitlines() if KEPT in before else []
    OUT.write_text("\n".join([*HEAD, *plan_report(), *cut]).rstrip() + "\n")


if __name__ == "__main__":
    main()
