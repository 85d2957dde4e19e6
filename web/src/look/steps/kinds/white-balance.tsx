import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type WhiteBalance = StepOf<"white-balance">;

export default defineKind<WhiteBalance>({
  kind: "white-balance",
  title: "White balance",
  purpose: "warmer or cooler, greener or pinker",
  fresh: () => ({ kind: "white-balance" }),
  example: { warm: 40 },
});
