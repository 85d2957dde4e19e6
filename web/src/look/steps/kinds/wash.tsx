import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type Wash = StepOf<"wash">;

export default defineKind<Wash>({
  kind: "wash",
  title: "Wash",
  purpose: "a colour laid over the whole picture",
  fresh: () => ({ kind: "wash" }),
  example: { mode: "soft-light", colour: [0.9, 0.5, 0.25] },
});
