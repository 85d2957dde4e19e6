import type { StepOf } from "../../../api/types";
import { defineKind } from "../editor";

type Group = StepOf<"group">;

export default defineKind<Group>({
  kind: "group",
  title: "Group",
  purpose: "several steps with one strength",
  fresh: () => ({ kind: "group" }),
});
