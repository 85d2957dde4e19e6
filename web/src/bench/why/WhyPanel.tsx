import { X } from "lucide-react";
import { memo, useEffect, useState } from "react";
import styled from "styled-components";
import { readWhy, type Part } from "../../api/seen";
import { useLatest } from "../../api/useLatest";
import type { Look, Picture, Why } from "../../api/types";
import { IconButton } from "../../kit/Button";
import { oneLine } from "../../kit/oneLine";
import { useUnits } from "../../kit/units";
import type { Frames } from "../../look/frames/useFrames";
import { useReading } from "../../look/frames/useFrames";
import { shownLook } from "../../look/store";
import { useBench, useBenchPart, useViewPart } from "../../look/useBench";
import { seenAs, type View } from "../../look/view/view";

const Root = styled.section`
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  padding: 8px 16px 12px;
  flex: none;
  max-height: 46%;
  overflow-y: auto;
`;
const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 8px;
  h2 {
    flex: 1;
    font-weight: 600;
  }
`;
const Words = styled.p`
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
  margin: 2px 0 8px;
`;
const Rows = styled.table`
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
  font-size: ${(p) => p.theme.tokens.size.small};
  th {
    text-align: right;
    font-weight: 400;
    font-size: 11px;
    color: ${(p) => p.theme.tokens.soft};
    padding: 0 0 3px;
  }
  th:first-child {
    text-align: left;
    width: 30%;
  }
  th:nth-child(2) {
    width: 31%;
  }
  th:last-child {
    width: 11%;
  }
  td {
    border-top: 1px solid ${(p) => p.theme.tokens.hush};
    padding: 3px 0;
    text-align: right;
    vertical-align: baseline;
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: 10.5px;
    letter-spacing: -0.03em;
    white-space: nowrap;
  }
  td:first-child {
    text-align: left;
    font-family: ${(p) => p.theme.tokens.words};
    letter-spacing: 0;
  }
  small {
    display: block;
    color: ${(p) => p.theme.tokens.soft};
    font-size: 10.5px;
  }
  tr[data-most] td {
    background: ${(p) => p.theme.tokens.accentWash};
  }
`;
const Name = styled.button`
  display: flex;
  align-items: baseline;
  gap: 6px;
  width: 100%;
  border: 0;
  background: none;
  padding: 0;
  text-align: left;
  color: inherit;
  cursor: pointer;
  font-size: ${(p) => p.theme.tokens.size.small};
  span {
    ${oneLine}
  }
  &:disabled {
    cursor: default;
  }
`;
const Swatch = styled.i`
  flex: none;
  width: 11px;
  height: 11px;
  border-radius: 50%;
  align-self: center;
`;

interface Ask {
  readonly look: Look;
  readonly seen: ReturnType<typeof seenAs>;
  readonly part: Part;
  readonly at: number | null;
}

const isChosen = (asking: View["asking"]): asking is Part => asking !== null && asking !== "where";
const oklch = (one: Why["reached"][number]) =>
  `oklch(${one.lightness.toFixed(3)} ${one.chroma.toFixed(3)} ${one.hue.toFixed(1)})`;

/** The column of a colour's values after each step, with the step that moved it most. */
export const WhyPanel = memo(function WhyPanel({ picture, frames }: { picture: Picture | undefined; frames: Frames }) {
  const { store, view } = useBench();
  const { write } = useUnits();
  const asking = useViewPart((one) => one.asking);
  const selected = useBenchPart((state) => state.selected);
  const rests = useReading(frames.reader, (readings) => readings.rests);
  const [why, setWhy] = useState<Why | null>(null);
  const ask = useLatest<Ask, Why>(
    ({ look, seen, part, at }, signal) => readWhy({ look, ...seen, ...part, at }, signal),
    setWhy,
  );
  const id = picture?.id;
  useEffect(() => {
    if (id === undefined || !isChosen(asking)) return;
    const at = frames.painter.frameOf(id);
    ask({ look: shownLook(store.get()), seen: seenAs(view.get(), id), part: asking, at });
  }, [ask, asking, id, rests, store, view, frames]);
  const found = isChosen(asking) ? why : null;
  const isPart = found !== null && found.width * found.height > 1;
  return (
    <Root aria-label="Why this colour is so">
      <Head>
        <h2>Why this colour is so</h2>
        <IconButton aria-label="No longer ask why" onPress={() => view.set({ asking: null })}>
          <X />
        </IconButton>
      </Head>
      {!found && <Words>Press a place in the picture, or draw over a part of it.</Words>}
      {found && (
        <>
          <Words>
            {isPart ? `Means and spread of ${found.width} × ${found.height} pixels. ` : "One pixel, step by step. "}
            {found.most === null ? "No step moves it." : `${found.reached[found.most]?.title ?? ""} moves it most.`}
          </Words>
          <Rows>
            <thead>
              <tr>
                <th>after</th>
                <th>codes</th>
                <th title="Lightness, chroma and hue in OKLab">L, C, hue</th>
                <th title="CIEDE2000 from what reached the step">ΔE</th>
              </tr>
            </thead>
            <tbody>
              {found.reached.map((one, index) => (
                <tr key={`${one.path} ${one.title}`} data-most={index === found.most || undefined}>
                  <td>
                    <Name
                      type="button"
                      disabled={!one.id}
                      aria-current={one.id && one.id === selected ? "step" : undefined}
                      onClick={() => store.dispatch({ type: "select", id: one.id })}
                    >
                      <Swatch style={{ background: oklch(one) }} />
                      <span>{one.title}</span>
                    </Name>
                  </td>
                  <td>
                    {one.codes.map(write).join(" ")}
                    {isPart && <small>± {one.spread.map(write).join(" ")}</small>}
                  </td>
                  <td>
                    {one.lightness.toFixed(2)} {one.chroma.toFixed(2)}{" "}
                    {one.chroma < 0.005 ? "–" : `${one.hue.toFixed(0)}°`}
                  </td>
                  <td>{index === 0 ? "" : one.moved.toFixed(1)}</td>
                </tr>
              ))}
            </tbody>
          </Rows>
        </>
      )}
    </Root>
  );
});
