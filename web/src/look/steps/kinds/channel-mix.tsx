import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type ChannelMix = StepOf<"channel-mix">;

export default defineKind<ChannelMix>({
  kind: "channel-mix",
  title: "Channel mix",
  purpose: "channels made out of each other; monochrome",
  fresh: () => ({ kind: "channel-mix" }),
  example: { red: [0.8, 0.3, -0.1], blue: [0, 0.2, 0.8] },
});
