import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { fetchThroughTool } from "../../api/seen";
import { useTool } from "../../api/luts";
import type { Lut, Picture, ToolChoice } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Compare, type Wipe } from "../../kit/Compare";
import { Notice } from "../../kit/Notice";
import { JobLine } from "../../jobs/JobLine";
import { useOutcome } from "../../jobs/useOutcome";

const Root = styled.div`
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  min-height: 0;
  min-width: 0;
`;
const Foot = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 10px 20px;
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  > span {
    flex: 1;
  }
`;
const Middle = styled.div`
  position: relative;
  display: grid;
  min-height: 0;
  em {
    position: absolute;
    bottom: 6px;
    font-style: normal;
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
const AS_IT_IS: ToolChoice = { tool: "strength", amount: 1, other: null, size: 33, low: 0, high: 1 };

/** The picture through the LUT and through what a tool would make of it, with a wipe between; nothing is kept until it is asked for. */
export function useTrial(lut: Lut, choice: ToolChoice | null, picture: Picture | undefined) {
  const [state, setState] = useState<{
    before: ImageBitmap | null;
    after: ImageBitmap | null;
    drawn: number;
    problem: string | null;
  }>({ before: null, after: null, drawn: 0, problem: null });
  const asked = choice && picture ? JSON.stringify({ choice, picture: picture.id, width: 960 }) : null;
  useEffect(() => {
    if (!asked) return undefined;
    const controller = new AbortController();
    const body = JSON.parse(asked) as { choice: ToolChoice; picture: number; width: number };
    void Promise.all([
      fetchThroughTool(lut.id, { ...body, choice: AS_IT_IS }, controller.signal),
      fetchThroughTool(lut.id, body, controller.signal),
    ]).then(
      ([before, after]) =>
        setState((last) => {
          last.before?.close();
          last.after?.close();
          return { before, after, drawn: last.drawn + 1, problem: null };
        }),
      (error: unknown) => {
        if (!controller.signal.aborted) setState((last) => ({ ...last, problem: wordsFor(error) }));
      },
    );
    return () => controller.abort();
  }, [asked, lut.id]);
  return state;
}

interface Props {
  readonly lut: Lut;
  readonly choice: ToolChoice | null;
  readonly title: string;
  readonly picture: Picture | undefined;
  readonly onClose?: () => void;
}

export function Trial({ lut, choice, title, picture, onClose }: Props) {
  const { before, after, drawn, problem } = useTrial(lut, choice, picture);
  const [wipe, setWipe] = useState<Wipe>({ x: 0.5, y: 0.5, angle: 0 });
  const tool = useTool(lut.id);
  const navigate = useNavigate();
  const [jobId, setJobId] = useState<number | null>(null);
  const { running } = useOutcome(jobId, ["shelf", "lut"], (job) => void navigate(job.page));
  return (
    <Root>
      <Middle>
        <Compare
          before={before}
          after={after}
          drawn={drawn}
          wipe={choice ? wipe : null}
          onWipe={setWipe}
          inset={26}
          label={`${picture?.name ?? "No picture"}: as it is to the left, ${title.toLowerCase()} to the right`}
        />
        {choice && (
          <>
            <em style={{ left: 28 }}>As it is</em>
            <em style={{ right: 28 }}>{title}</em>
          </>
        )}
      </Middle>
      <Foot>
        <span>
          {problem ? (
            <Notice>{problem}</Notice>
          ) : tool.error ? (
            <Notice>{wordsFor(tool.error)}</Notice>
          ) : jobId !== null ? (
            <JobLine id={jobId} what="Making the LUT" cancelled="Cancelled. Nothing was kept." />
          ) : choice ? (
            "Kept as a new LUT that names this one as its parent; this one stays as it is."
          ) : (
            "Choose what to do."
          )}
        </span>
        {onClose && <Secondary onPress={onClose}>Back to the report</Secondary>}
        <Primary
          isDisabled={!choice || problem !== null}
          isPending={tool.isPending || running}
          onPress={() => choice && tool.mutate({ choice, name: "" }, { onSuccess: (started) => setJobId(started.id) })}
        >
          Keep as a new LUT
        </Primary>
      </Foot>
    </Root>
  );
}
