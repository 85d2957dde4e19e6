import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type Limit = StepOf<"limit">;

export default defineKind<Limit>({
  kind: "limit",
  title: "Limit",
  purpose: "hold values to a range, hard or with a knee",
  fresh: () => ({ kind: "limit" }),
  example: { low: 0.06, high: 0.9, knee: 0.4 },
});
