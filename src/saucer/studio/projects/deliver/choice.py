"""What a delivery is asked to hold."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from saucer.studio.projects.rules import MOST_AT_ONCE

Picture = Literal["", "png", "tiff", "jpeg", "openexr", "dpx"]
Clip = Literal["", "h264", "prores", "prores4444", "h265", "vc3", "ffv1"]
SUFFIXES = {"png": ".png", "tiff": ".tif", "jpeg": ".jpg", "openexr": ".exr", "dpx": ".dpx"}
FOLDERS = {"still": "stills", "frame": "sequences", "clip": "clips", "lut": "luts", "look": "looks", "list": "lists"}


class DeliveryChoice(BaseModel):
    """shots: none for all of the project; encoding: empty for that of the project

    stills: a still of each shot, of its poster where it moves; sequences, clips: of what moves; luts: a format's id, one LUT a shot
    constant: frames of clips that are not equally long become so
    lines: of clips at most, for copies that are only to be looked at; 0 for as many as the source has
    template: of names, with {project} {code} {scene} {shot} {look} {version} {encoding} {delivery}
    burn: the shot's name and the timecode of each frame are written into clips; mark: and these words
    """

    model_config = ConfigDict(extra="forbid")

    shots: Annotated[list[int], Field(max_length=MOST_AT_ONCE * 4)] = []
    encoding: Annotated[str, Field(max_length=40)] = ""
    stills: Picture = ""
    sequences: Picture = ""
    clips: Clip = ""
    lines: Annotated[int, Field(ge=0, le=4320)] = 0
    constant: bool = False
    luts: Annotated[str, Field(max_length=20)] = ""
    lut_size: Annotated[int, Field(ge=2, le=129)] = 33
    cdl: bool = False
    timeline: bool = False
    looks: bool = False
    sheet: bool = False
    template: Annotated[str, Field(min_length=1, max_length=120)] = "{scene}_{shot}"
    burn: bool = False
    mark: Annotated[str, Field(max_length=60)] = ""

    @property
    def holds_anything(self) -> bool:
        return any((self.stills, self.sequences, self.clips, self.luts, self.cdl, self.timeline, self.looks, self.sheet))
