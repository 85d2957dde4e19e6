"""What is told of a LUT and of its files beside their columns: one model each."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict

from saucer.core.bake.fidelity import Spread


class SpreadFacts(BaseModel):
    """CIEDE2000 over colours."""

    mean: float
    p95: float
    p99: float
    largest: float

    @staticmethod
    def of(spread: Spread) -> SpreadFacts:
        return SpreadFacts(**vars(spread))


class FileFacts(BaseModel):
    """lost: what the format could not hold; fidelity: what its file does against the look, where it was baked"""

    model_config = ConfigDict(extra="forbid")

    lost: list[str] = []
    fidelity: SpreadFacts | None = None


class LutFacts(BaseModel):
    """left_out, part, member (of the look's family): of a bake; words: what was measured when a tool, a chart or a pair made it"""

    model_config = ConfigDict(extra="forbid")

    left_out: list[str] = []
    part: str = ""
    member: str = ""
    words: str = ""
