"""Make the paper's two type files from the screen's own face: latin, latin-extended, cyrillic and greek, two weights.

Wants fonttools and brotli, which nothing else here needs:
    python tools/paper_fonts.py web/node_modules/@fontsource-variable/commissioner/files src/dapwick/exports/fonts
"""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path
from typing import Final

from fontTools.merge import Merger
from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

WEIGHTS: Final = {"Regular": 400, "Bold": 700}
SCRIPTS: Final = ("latin", "latin-ext", "cyrillic", "greek")
DROPPED: Final = ("GSUB", "GPOS", "GDEF", "STAT", "HVAR", "MVAR", "DSIG", "gasp")


def weighed(file: Path, name: str, weight: int, folder: Path) -> str:
    """One script at one weight, as a plain TrueType file."""
    font = instantiateVariableFont(TTFont(file), {"wght": weight})
    font.flavor = None
    for table in DROPPED:
        if table in font:
            del font[table]
    for record in font["name"].names:
        if record.nameID in (4, 6):
            record.string = f"Commissioner-{name}"
    out = folder / f"{file.stem}-{weight}.ttf"
    font.save(out)
    return str(out)


def main(files: Path, to: Path) -> None:
    to.mkdir(parents=True, exist_ok=True)
    for name, weight in WEIGHTS.items():
        with tempfile.TemporaryDirectory() as folder:
            parts = [
                weighed(files / f"commissioner-{s}-wght-normal.woff2", name, weight, Path(folder))
                for s in SCRIPTS
            ]
            Merger().merge(parts).save(to / f"Commissioner-{name}.ttf")
        print(f"Commissioner-{name}.ttf: {(to / f'Commissioner-{name}.ttf').stat().st_size / 1000:.0f} kB")


if __name__ == "__main__":
    main(Path(sys.argv[1]), Path(sys.argv[2]))
