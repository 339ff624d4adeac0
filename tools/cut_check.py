"""Simulated dogs cut to plan and drawn: does the silhouette come out where the outline was drawn?

Wants the developers' extra (`pip install -e '.[dogs]'`). Every strand of the head's hair ends at the planned
depth over the true skin; ears are left as they are, neck and body taken short first, as the order of work has it.
Compared are the stretches of the drawn line that the head makes: not those by an ear, nor from the front the
chin, behind which the chest stands.
"""

from __future__ import annotations

import numpy as np
from scipy.spatial import cKDTree

from coat_truth import grounded
from dapwick.core.basics.arrays import Array
from dapwick.core.basics.frame import rigid_into_head_frame
from dapwick.core.basics.marks import MARK_IDS
from dapwick.core.head.zones import ZONES
from dapwick.core.outlines.families import FAMILIES
from dapwick.core.outlines.fit import Outline
from dapwick.demo.dogs import ALL_SEVEN, truth
from dapwick.pipeline.plan import drawn_on, fit_on, surface
from dapwick.vision.silhouette import silhouette
from simdogs.coat import cut_to, grow
from simdogs.dogs import DOGS
from simdogs.form import marks, skin_field
from simdogs.mesh import skin_mesh
from simdogs.scene import EDGE_SMOOTH_MM, render, stage
from simdogs.truth import edge

DOGS_CUT = ("fogbell", "bobbin", "tiller", "kelpie-jo", "ratline")
FAMILIES_CUT = ("round", "teddy", "brows_beard", "topknot")
VIEWS = ("front", "left")
SHOWN = {
    "front": ("crown", "visor", "brow", "temple", "cheek"),
    "left": ("crown", "back_skull", "visor", "brow", "bridge", "muzzle_side", "chin"),
}
ON_THE_HEAD_MM = 14.0
NECK_MM = 3.0
BY_AN_EAR_MM = 16.0
NEAR_PX = 9.0
SCALE = 1.0


class CutDog:
    """One simulated dog: its hair, and its head as measured from four dry photos."""

    def __init__(self, key: str) -> None:
        self.key, self.dog = key, DOGS[key]
        self.skin = skin_mesh(self.dog.head)
        self.hair = grow(self.dog, self.skin)
        self.model = grounded(key, ALL_SEVEN[:4]).model
        self.axes, self.origin = rigid_into_head_frame(np.array([marks(self.dog.head)[m] for m in MARK_IDS]))

    def silhouette_off(self, outline: Outline, view: str) -> Array:
        """How far (mm) the finished silhouette lies from the drawn line, place by place along it."""
        shot = next(s for s in self.dog.shots if (s.state, s.view, s.visit) == ("dry", view, 0))
        hair = cut_to(self.hair, self._planned_mm(outline), lambda at: skin_field(self.dog.head, at))
        cover = render(stage(self.dog, shot, self.skin, hair).under(shot), shot, SCALE).cover
        seen = np.array(edge(cover, EDGE_SMOOTH_MM * shot.focal_px / shot.distance_mm))
        camera = next(c for p, c in self.model.seen if p.view == view)
        finished = surface(outline, outline.leave_mm)
        line = silhouette(camera.project(finished), self.model.ground.skin.template.faces)
        kept = line[self._compared(line, camera.project(finished), camera, view)]
        walked = np.concatenate(
            [np.linspace(a, b, 12) for a, b in zip(seen, np.roll(seen, -1, axis=0), strict=True)]
        )
        px_per_mm = camera.focal_px / camera.distance_mm
        return np.asarray(cKDTree(walked).query(kept)[0] / px_per_mm)

    def _planned_mm(self, outline: Outline) -> Array:
        """Depth left of each strand: as planned on the head, all of it elsewhere."""
        roots = (self.hair.strands_mm[:, 0] - self.origin) @ self.axes.T
        away, vertex = cKDTree(self.model.ground.skin.vertices_mm).query(roots)
        ears = np.concatenate([ear.vertices_mm for ear in self.model.ground.ears])
        elsewhere = np.where(cKDTree(ears).query(roots)[0] < BY_AN_EAR_MM, np.inf, NECK_MM)
        return np.where(away < ON_THE_HEAD_MM, outline.leave_mm[vertex], elsewhere)

    def _compared(self, line: Array, places_px: Array, camera, view: str) -> Array:  # type: ignore[no-untyped-def]
        ground = self.model.ground
        away, vertex = cKDTree(places_px).query(line)
        zone = np.array(ZONES)[ground.skin.template.zone[vertex]]
        ears = np.concatenate([camera.project(ear.vertices_mm) for ear in ground.ears])
        clear = cKDTree(ears).query(line)[0] > BY_AN_EAR_MM * camera.focal_px / camera.distance_mm
        return np.isin(zone, SHOWN[view]) & (away < NEAR_PX) & clear


def cut_report() -> list[str]:
    lines = [
        "## Cut to plan and looked at",
        "",
        "The simulated dog's own strands cut to the planned depths (planned from four dry photos, no comb) and drawn "
        "by the renderer; how far the finished silhouette lies from the outline drawn over the same photo. Ears, "
        "nape, throat, jaw, and from the front the chin are left out: ears, neck and chest make the silhouette there.",
        "",
        "| dog | " + " | ".join(FAMILIES[f].name for f in FAMILIES_CUT) + " |",
        "|-|" + "-|" * len(FAMILIES_CUT),
    ]
    everything = []
    for key in DOGS_CUT:
        dog, cells = CutDog(key), []
        for family in FAMILIES_CUT:
            outline = drawn_on(fit_on(dog.model, FAMILIES[family]), {})
            off = np.concatenate([dog.silhouette_off(outline, view) for view in VIEWS])
            everything.append(off)
            cells.append(f"{np.median(off):.1f} (90 % within {np.quantile(off, 0.9):.1f})")
        lines.append(f"| {truth(key)['dog']} | " + " | ".join(cells) + " |")
    pooled = np.concatenate(everything)
    lines += [
        "",
        f"Millimetres, front and left views. All together: median {np.median(pooled):.1f} mm, "
        f"90 % within {np.quantile(pooled, 0.9):.1f} mm, over {len(pooled)} places.",
        "",
    ]
    return lines
