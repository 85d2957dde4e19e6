import { memo } from "react";
import { Slider } from "react-aria-components";
import styled from "styled-components";
import type { Picture } from "../../api/types";
import { titleOf } from "../../look/titles";
import { useBench, useBenchPart, useViewPart } from "../../look/useBench";
import { oneLine } from "../../kit/oneLine";
import { FieldThumb, FieldTrack } from "../../kit/slider";
import { SeenBy } from "./SeenBy";
import { trayButton } from "./trayButton";

const Root = styled.div`
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 0 20px;
  background: ${(p) => p.theme.surround.tray};
  font-size: ${(p) => p.theme.tokens.size.small};
  > span {
    ${oneLine}
    max-width: 220px;
  }
  > :nth-child(2) {
    flex: 1;
    min-width: 80px;
  }
  > [data-testid="stage-words"] {
    min-width: 120px;
  }
  > button {
    ${trayButton}
  }
`;
const HEIGHT = 22;
const Stop = styled.span<{ $past: boolean }>`
  position: absolute;
  top: 8px;
  width: 6px;
  height: 6px;
  margin-left: -3px;
  border-radius: 50%;
  background: ${(p) => (p.$past ? "currentColor" : p.theme.surround.tray)};
  border: 1.5px solid currentColor;
`;

/** The picture after step 0, 1, 2 ... n, and by which view it is seen. */
export const StageSlider = memo(function StageSlider({ picture }: { picture: Picture | undefined }) {
  const { view } = useBench();
  const steps = useBenchPart((state) => state.look.steps);
  const stage = useViewPart((one) => one.stage);
  const count = steps?.length ?? 0;
  const at = Math.min(stage ?? count, count);
  const step = steps?.[at - 1];
  const words =
    at === count ? "after all steps" : at === 0 || !step ? "before the first step" : `after ${titleOf(step)}`;
  if (count === 0)
    return (
      <Root>
        <span>Stage: before the first step</span>
        <span />
        <SeenBy picture={picture} />
      </Root>
    );
  return (
    <Root>
      <span>Stage</span>
      <Slider
        aria-label="Stage"
        minValue={0}
        maxValue={count}
        step={1}
        value={at}
        onChange={(next) => view.set({ stage: next === count ? null : next })}
      >
        <FieldTrack $height={HEIGHT}>
          {Array.from({ length: count + 1 }, (_, index) => (
            <Stop key={index} $past={index <= at} style={{ left: `${(index / count) * 100}%` }} />
          ))}
          <FieldThumb $height={HEIGHT} $size={15} />
        </FieldTrack>
      </Slider>
      <span data-testid="stage-words">{words}</span>
      <SeenBy picture={picture} />
    </Root>
  );
});
