import styled from "styled-components";

const Bar = styled.div`
  height: 12px;
  border-radius: 3px;
  margin: 6px 8px 0;
  & + & {
    margin-top: 2px;
  }
`;

/** A grey ramp before and after the step, as 8-bit sRGB from the engine. */
export function Ramp({ after }: { after: readonly (readonly [number, number, number])[] | undefined }) {
  const stops = after?.map(([r, g, b]) => `rgb(${r} ${g} ${b})`).join(",");
  return (
    <div role="img" aria-label="Grey ramp before and after this step">
      <Bar style={{ background: "linear-gradient(90deg, rgb(0 0 0), rgb(255 255 255))" }} />
      <Bar style={{ background: stops ? `linear-gradient(90deg, ${stops})` : "none" }} data-testid="ramp-after" />
    </div>
  );
}
