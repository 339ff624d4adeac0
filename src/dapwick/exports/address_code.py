"""An address as a square code to be read by a tablet's camera."""

from __future__ import annotations

import io

import segno


def address_svg(address: str) -> bytes:
    """SVG, four modules of quiet border, no colours of its own but ink on paper."""
    out = io.BytesIO()
    segno.make(address, micro=False).save(
        out, kind="svg", border=4, scale=8, dark="#17352f", light="#ffffff", xmldecl=False, omitsize=True
    )
    return out.getvalue()
