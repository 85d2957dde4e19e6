import styled from "styled-components";
import { Disc } from "../../kit/Disc";
import type { Tile } from "./useTries";

const Blank = styled(Disc)`
  background-color: ${(p) => p.theme.tokens.hush};
`;

/** The picture through what is tried, as soon as it has come: one of several that lie one below the other in one image. */
export function TriedDisc({ tile, size }: { tile: Tile | undefined; size: number }) {
  const place = tile && tile.count > 1 ? (tile.index / (tile.count - 1)) * 100 : 0;
  const style = tile && {
    backgroundImage: `url(${tile.url})`,
    backgroundSize: `100% ${tile.count * 100}%`,
    backgroundPosition: `0 ${place}%`,
  };
  return <Blank $size={size} style={style} />;
}
