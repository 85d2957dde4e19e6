import { memo } from "react";
import styled from "styled-components";
import type { Picture } from "../../api/types";
import { Choice } from "../../kit/Choice";
import type { Reader } from "../frames/reader";
import { useBench, useViewPart } from "../useBench";
import { useReading } from "../frames/useFrames";
import type { ScopeKind } from "../view/view";
import { Histogram } from "./Histogram";
import { Trace } from "./Trace";

const Root = styled.section`
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  padding: 8px 16px 12px;
  flex: none;
`;
export const Kinds = styled(Choice<ScopeKind>)`
  margin: 0 0 6px -6px;
  gap: 0 !important;
  button {
    padding: 2px 9px;
    font-size: ${(p) => p.theme.tokens.size.small};
    min-height: 24px;
  }
`;
export const kinds: readonly (readonly [ScopeKind, string])[] = [
  ["histogram", "Histogram"],
  ["waveform", "Waveform"],
  ["parade", "Parade"],
  ["vectorscope", "Vectorscope"],
];

/** What the picture's code values come to, the original behind. */
export const Scopes = memo(function Scopes({ reader, picture }: { reader: Reader; picture: Picture | undefined }) {
  const { view } = useBench();
  const kind = useViewPart((one) => one.scope);
  const pinned = useViewPart((one) => one.reference);
  const scopes = useReading(reader, (readings) => readings.scopes);
  return (
    <Root aria-label="Scopes">
      <Kinds label="Scope" value={kind} options={kinds} onChange={(next) => view.set({ scope: next })} />
      {kind === "histogram" ? (
        <Histogram scopes={scopes} behind={pinned ? pinned.name : "the original"} />
      ) : (
        picture && <Trace key={kind} reader={reader} picture={picture} kind={kind} />
      )}
    </Root>
  );
});
