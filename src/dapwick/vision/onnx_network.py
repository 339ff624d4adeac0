"""A network that ships as an ONNX file, run by OpenCV."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from threading import Lock

import cv2
import numpy as np
from numpy.typing import NDArray

Layer = NDArray[np.float32]


class OnnxNetwork:
    """Reads one picture at a time: OpenCV's networks keep their state in themselves."""

    def __init__(self, file: Path, outputs: Sequence[str] = ()) -> None:
        """outputs: names of all of them, in the order wanted; without any, the first one is read alone."""
        self._network = cv2.dnn.readNetFromONNX(str(file))
        self._outputs = list(outputs)
        self._one_at_a_time = Lock()

    def forward(self, picture: Layer) -> tuple[Layer, ...]:
        """The wanted outputs for a picture (height, width, 3)."""
        layers = np.ascontiguousarray(picture.transpose(2, 0, 1)[None], np.float32)
        with self._one_at_a_time:
            self._network.setInput(layers)
            # Copied: the next picture may be written where these lie.
            return tuple(np.array(o, np.float32) for o in self._run())

    def _run(self) -> Sequence[cv2.typing.MatLike]:
        if self._outputs:
            return self._network.forward(self._outputs)
        return [self._network.forward(self._network.getUnconnectedOutLayersNames()[0])]
