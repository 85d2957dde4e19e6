import { useEffect, useLayoutEffect, useRef, useState } from "react";
import styled from "styled-components";
import { fetchOverlay } from "../../api/seen";
import { Latest } from "../../api/latest";
import type { Look, Picture } from "../../api/types";
import { shownLook } from "../../look/store";
import { useBench, useViewPart } from "../../look/useBench";
import { useReading, type Frames } from "../../look/frames/useFrames";
import { seenAs, type Gamut, type Vision } from "../../look/view/view";
import { drawn, patternsOf, wordsOf, type Mark, type Marked, type Patterned } from "./marks";

const Canvas = styled.canvas`
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  display: block;
  pointer-events: none;
`;
const Legend = styled.div`
  position: absolute;
  left: 10px;
  bottom: 10px;
  display: flex;
  flex-wrap: wrap;
  gap: 3px 14px;
  max-width: calc(100% - 20px);
  padding: 4px 12px;
  border-radius: 12px;
  background: ${(p) => p.theme.tokens.pictureVeil};
  color: ${(p) => p.theme.tokens.onPicture};
  font-size: ${(p) => p.theme.tokens.size.small};
  font-variant-numeric: tabular-nums;
  span {
    display: inline-flex;
    align-items: center;
    gap: 6px;
  }
`;
const SIDE = 14;

/** A swatch of a pattern. */
export function PatternSwatch({ kind, index }: { kind: Patterned; index: 0 | 1 }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!context) return;
    const image = context.createImageData(SIDE, SIDE);
    for (let y = 0; y < SIDE; y += 1) {
      for (let x = 0; x < SIDE; x += 1) {
        const ink = patternsOf[kind][index](x, y);
        image.data.set(
          [
            ink > 0 ? 255 : ink < 0 ? 0 : 119,
            ink > 0 ? 255 : ink < 0 ? 0 : 119,
            ink > 0 ? 255 : ink < 0 ? 0 : 119,
            255,
          ],
          (y * SIDE + x) * 4,
        );
      }
    }
    context.putImageData(image, 0, 0);
  }, [kind, index]);
  return <canvas ref={canvas} width={SIDE} height={SIDE} aria-hidden />;
}

interface Ask {
  readonly look: Look;
  readonly picture: number;
  readonly read_as?: string;
  readonly kind: Mark;
  readonly tolerance: number;
  readonly gamut: Gamut;
  readonly vision: Vision;
  readonly severity: number;
}

/** Clipping, skin that turned, colours outside a gamut, or the error of baking, over the picture; or the picture as other eyes see it. Read anew at rest. */
export function MarksOver({
  picture,
  frames,
  kind,
  clip,
}: {
  picture: Picture;
  frames: Frames;
  kind: Mark;
  clip: string | undefined;
}) {
  const { store, view } = useBench();
  const tolerance = useViewPart((view) => view.tolerance);
  const gamut = useViewPart((view) => view.gamut);
  const vision = useViewPart((view) => view.vision);
  const severity = useViewPart((view) => view.severity);
  const rests = useReading(frames.reader, (readings) => readings.rests);
  const [marked, setMarked] = useState<(Marked & { readonly kind: Ask["kind"] }) | null>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const channel = useRef<Latest<Ask, Marked & { kind: Ask["kind"] }> | null>(null);

  useEffect(() => {
    const latest = new Latest<Ask, Marked & { kind: Ask["kind"] }>(
      async (ask, signal) => {
        const { bitmap, figures } = await fetchOverlay(ask, signal);
        return { pattern: await drawn(bitmap, ask.kind), figures, kind: ask.kind };
      },
      (found) =>
        setMarked((last) => {
          last?.pattern.close();
          return found;
        }),
      () => undefined,
    );
    channel.current = latest;
    return () => latest.close();
  }, []);
  useEffect(() => {
    const asked = { kind, tolerance, gamut, vision, severity };
    channel.current?.ask({ look: shownLook(store.get()), ...seenAs(view.get(), picture.id), ...asked });
  }, [store, view, picture.id, picture.state, kind, tolerance, gamut, vision, severity, rests]);
  useLayoutEffect(() => {
    if (!canvas.current || !marked) return;
    canvas.current.width = marked.pattern.width;
    canvas.current.height = marked.pattern.height;
    canvas.current.getContext("2d")?.drawImage(marked.pattern, 0, 0);
  }, [marked]);

  const current = marked?.kind === kind ? marked : null;
  return (
    <>
      <Canvas ref={canvas} data-testid="marks" style={current ? { clipPath: clip } : { display: "none" }} />
      {current && (
        <Legend role="status" data-testid="marks-legend">
          {wordsOf(kind, current.figures, tolerance).map(([index, words]) => (
            <span key={words}>
              {index !== null && kind !== "vision" && <PatternSwatch kind={kind} index={index} />}
              {words}
            </span>
          ))}
        </Legend>
      )}
    </>
  );
}
