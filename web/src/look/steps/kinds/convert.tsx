import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type Convert = StepOf<"convert">;

export default defineKind<Convert>({
  kind: "convert",
  title: "Convert",
  purpose: "to another encoding",
  fresh: () => ({ kind: "convert" }),
});
