import { useEffect, useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { fetchCell } from "../../api/seen";
import { Secondary } from "../../kit/Button";
import { Compare, type Wipe } from "../../kit/Compare";
import { Notice } from "../../kit/Notice";
import type { Place } from "./Cell";

const Root = styled.section`
  position: absolute;
  inset: 0;
  z-index: 2;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  background: ${(p) => p.theme.surround.field};
`;
const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 6px 16px;
  > span:nth-child(2) {
    margin-left: auto;
  }
`;

const pathOf = ({ entry, picture }: Place) =>
  `/shelf/entries/${String(entry.id)}/preview.jpg?picture=${picture.id}&state=${entry.shows}-${picture.state}&large=true`;

interface Props {
  readonly pair: readonly [Place, Place];
  /** What their words call them. */
  readonly names: readonly [string, string];
  readonly onClose: () => void;
}

/** Any two cells of a board, large, with a line between them that can be dragged and turned. */
export function PairView({ pair, names, onClose }: Props) {
  const [left, right] = pair.map(pathOf);
  const [shown, setShown] = useState<{ before: ImageBitmap; after: ImageBitmap; drawn: number } | null>(null);
  const [trouble, setTrouble] = useState<unknown>(null);
  const [wipe, setWipe] = useState<Wipe>({ x: 0.5, y: 0.5, angle: 6 });
  useEffect(() => {
    const controller = new AbortController();
    Promise.all([left, right].map((path) => fetchCell(path ?? "", controller.signal))).then(
      ([before, after]) => before && after && setShown((last) => ({ before, after, drawn: (last?.drawn ?? 0) + 1 })),
      (error: unknown) => {
        if (!controller.signal.aborted) setTrouble(error);
      },
    );
    return () => controller.abort();
  }, [left, right]);
  const words = pair.map((one, index) => `${names[index] ?? ""}, ${one.picture.name}`);
  return (
    <Root aria-label="Two of the board" onKeyDown={(event) => event.key === "Escape" && onClose()}>
      <Head>
        <span>1: {words[0]}</span>
        <span>2: {words[1]}</span>
        <Secondary onPress={onClose} autoFocus>
          Back to the board
        </Secondary>
      </Head>
      {trouble !== null ? (
        <Notice>{wordsFor(trouble)}</Notice>
      ) : (
        <Compare
          before={shown?.before ?? null}
          after={shown?.after ?? null}
          drawn={shown?.drawn ?? 0}
          wipe={wipe}
          onWipe={setWipe}
          label={`${words[0] ?? ""} beside ${words[1] ?? ""}`}
        />
      )}
    </Root>
  );
}
