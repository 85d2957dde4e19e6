import styled from "styled-components";
import type { Counts, Kind } from "../../api/types";

const Root = styled.nav`
  background: ${(p) => p.theme.tokens.glaze};
  border-right: 1px solid ${(p) => p.theme.tokens.line};
  padding: 16px 8px;
  overflow-y: auto;
  min-height: 0;
  h2 {
    margin: 0 8px 6px;
    font-size: ${(p) => p.theme.tokens.size.small};
    font-weight: 500;
    color: ${(p) => p.theme.tokens.soft};
  }
  ul {
    list-style: none;
    margin: 0 0 18px;
    padding: 0;
  }
`;
const Line = styled.button<{ $on: boolean; $depth?: number }>`
  display: flex;
  justify-content: space-between;
  gap: 8px;
  width: 100%;
  padding: 4px 8px;
  padding-left: ${(p) => 8 + 12 * Math.min(p.$depth ?? 0, 5)}px;
  border: 0;
  border-radius: 5px;
  cursor: pointer;
  text-align: left;
  background: ${(p) => (p.$on ? p.theme.tokens.accentWash : "none")};
  font-weight: ${(p) => (p.$on ? 600 : 400)};
  color: ${(p) => (p.$on ? p.theme.tokens.accent : "inherit")};
  b {
    font-weight: inherit;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  span {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: ${(p) => p.theme.tokens.size.small};
    font-weight: 400;
    color: ${(p) => p.theme.tokens.soft};
  }
`;

export type What = "" | Kind;
const kinds: readonly (readonly [What, string])[] = [
  ["", "Everything"],
  ["look", "Looks"],
  ["lut", "LUTs"],
  ["preset", "Presets"],
];
/** What no category can be called: those without one. */
const NONE = "/";

interface Props {
  /** How many each choice would show, as the server has counted them. */
  readonly counts: Counts | undefined;
  readonly what: What;
  readonly category: string;
  readonly onWhat: (what: What) => void;
  readonly onCategory: (category: string) => void;
}

/** Narrows the Shelf by kind and by category, with how many each holds. Pressing a chosen category again lets it go. */
export function Filters({ counts, what, category, onWhat, onCategory }: Props) {
  const categories = counts?.categories ?? [];
  const known = categories.some((one) => one.path === category) || category === "" || category === NONE;
  const countOf = (kind: What) =>
    kind === ""
      ? Object.values(counts?.kinds ?? {}).reduce((sum, count) => sum + count, 0)
      : (counts?.kinds[kind] ?? 0);
  const line = (path: string, name: string, depth: number, count: number) => (
    <li key={path}>
      <Line
        type="button"
        title={path === NONE ? undefined : path}
        $on={category === path}
        $depth={depth}
        aria-pressed={category === path}
        onClick={() => onCategory(category === path ? "" : path)}
      >
        <b>{name}</b> <span>{count}</span>
      </Line>
    </li>
  );
  return (
    <Root aria-label="Filters">
      <h2>What</h2>
      <ul>
        {kinds.map(([id, name]) => (
          <li key={id}>
            <Line type="button" $on={what === id} aria-pressed={what === id} onClick={() => onWhat(id)}>
              <b>{name}</b> <span>{countOf(id)}</span>
            </Line>
          </li>
        ))}
      </ul>
      {(categories.length > 0 || !known) && (
        <>
          <h2>Category</h2>
          <ul aria-label="Categories">
            {!known && line(category, category, 0, 0)}
            {categories.map((one) => line(one.path, one.name, one.depth, one.count))}
            {line(NONE, "Without one", 0, counts?.without ?? 0)}
          </ul>
        </>
      )}
    </Root>
  );
}
