import styled, { useTheme } from "styled-components";
import type { Picture } from "../../../api/types";

const HEIGHT = 130;
const Root = styled.figure`
  margin: 10px 8px 0;
  display: grid;
  justify-items: center;
  gap: 4px;
  figcaption {
    font-size: 11px;
    color: ${(p) => p.theme.tokens.soft};
  }
`;

interface Props {
  readonly picture: Picture | undefined;
  /** Share of the picture's height: the standard deviation of a blur, or the distance between grains. */
  readonly radius: number;
  readonly kind: "glow" | "dot";
  readonly words: string;
}

/** How far an effect reaches, in a picture drawn to scale: one bright point, spread. */
export function Spread({ picture, radius, kind, words }: Props) {
  const { tokens } = useTheme();
  const ratio = picture ? picture.proxy_width / picture.proxy_height : 16 / 9;
  const width = Math.min(312, HEIGHT * ratio);
  const height = width / ratio;
  const pixels = picture ? radius * Math.min(picture.width / ratio, picture.height) : null;
  return (
    <Root>
      <svg width={width} height={height} role="img" aria-label={words}>
        <defs>
          <radialGradient id="spread">
            {[0, 0.25, 0.5, 0.75, 1].map((at) => (
              <stop key={at} offset={at} stopColor={tokens.onPicture} stopOpacity={Math.exp(-((at * 3) ** 2) / 2)} />
            ))}
          </radialGradient>
        </defs>
        <rect width={width} height={height} rx={3} fill={tokens.scope.field} />
        {kind === "glow" ? (
          <circle cx={width / 2} cy={height / 2} r={Math.max(0.75, radius * height * 3)} fill="url(#spread)" />
        ) : (
          <circle cx={width / 2} cy={height / 2} r={Math.max(0.4, (radius * height) / 2)} fill={tokens.onPicture} />
        )}
      </svg>
      <figcaption>
        {words}
        {pixels === null ? "" : `: ${pixels < 10 ? pixels.toFixed(1) : Math.round(pixels)} pixels here`}
      </figcaption>
    </Root>
  );
}
