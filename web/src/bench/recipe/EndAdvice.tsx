import { TriangleAlert } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { settleEnd } from "../../api/seen";
import type { Sketch } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { withIds } from "../../look/arrange";
import { useBench } from "../../look/useBench";

const Root = styled.li`
  display: grid;
  grid-template-columns: 15px 1fr;
  gap: 6px;
  padding: 2px 14px 8px 20px;
  font-size: ${(p) => p.theme.tokens.size.small};
  line-height: 1.35;
  color: ${(p) => p.theme.tokens.caution};
  svg {
    width: 13px;
    height: 13px;
    margin-top: 1px;
  }
  button {
    font-size: inherit;
    margin-right: 10px;
  }
`;

/** The steps end in another encoding than the look says: both ways to put it right. */
export function EndAdvice({ sketch }: { sketch: Sketch | null }) {
  const { store, mayEdit } = useBench();
  const [problem, setProblem] = useState("");
  if (!sketch?.problem) return null;

  async function settle(by: "declare" | "convert") {
    try {
      const settled = await settleEnd(store.get().look, by);
      store.edit(by === "declare" ? "Declare the output" : "Convert to the output", () => withIds(settled));
      setProblem("");
    } catch (error) {
      setProblem(wordsFor(error));
    }
  }

  return (
    <Root role="alert">
      <TriangleAlert aria-label="Advice" />
      <span>
        The steps end in {sketch.end}.{" "}
        {mayEdit && (
          <>
            <WordButton onPress={() => void settle("convert")}>Convert at the end</WordButton>
            <WordButton onPress={() => void settle("declare")}>Declare {sketch.end}</WordButton>
          </>
        )}
        {problem}
      </span>
    </Root>
  );
}
