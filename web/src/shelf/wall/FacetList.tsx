import { ChevronRight } from "lucide-react";
import { useState, type ReactNode } from "react";
import styled from "styled-components";
import { oneLine } from "../../kit/oneLine";

export const Line = styled.button<{ $on: boolean; $depth?: number }>`
  display: flex;
  justify-content: space-between;
  gap: 8px;
  width: 100%;
  padding: 3px 8px;
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
    ${oneLine}
  }
  span {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: ${(p) => p.theme.tokens.size.small};
    font-weight: 400;
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Head = styled.button`
  display: flex;
  align-items: center;
  gap: 4px;
  width: 100%;
  padding: 5px 4px;
  border: 0;
  background: none;
  cursor: pointer;
  text-align: left;
  color: ${(p) => p.theme.tokens.soft};
  font-size: ${(p) => p.theme.tokens.size.small};
  font-weight: 500;
  svg {
    width: 13px;
    height: 13px;
    transition: transform ${(p) => p.theme.tokens.motion};
  }
  &[aria-expanded="true"] svg {
    transform: rotate(90deg);
  }
  i {
    font-style: normal;
    margin-left: auto;
    padding: 0 4px;
    color: ${(p) => p.theme.tokens.accent};
  }
`;
const More = styled.button`
  border: 0;
  background: none;
  padding: 3px 8px;
  cursor: pointer;
  color: ${(p) => p.theme.tokens.accent};
  font-size: ${(p) => p.theme.tokens.size.small};
`;
const FIRST = 8;

export interface Option {
  readonly id: string;
  readonly name: string;
  readonly count: number;
  readonly depth?: number;
}

interface Props {
  readonly title: string;
  readonly options: readonly Option[];
  readonly chosen: readonly string[];
  readonly onToggle: (id: string) => void;
  readonly startOpen?: boolean;
  /** How many are listed at first; the chosen ones always are. */
  readonly first?: number;
  readonly foot?: ReactNode;
}

/** The choices of one facet with how many each would show. Several may be chosen; a chosen one pressed again is let go. */
export function FacetList({ title, options, chosen, onToggle, startOpen = false, first = FIRST, foot }: Props) {
  const [open, setOpen] = useState(startOpen || chosen.length > 0);
  const [all, setAll] = useState(false);
  const known = new Set(options.map((one) => one.id));
  const lost = chosen.filter((id) => !known.has(id)).map((id) => ({ id, name: id, count: 0 }));
  const shown = all ? options : options.filter((one, index) => index < first || chosen.includes(one.id));
  if (options.length === 0 && lost.length === 0) return null;
  return (
    <section>
      <Head type="button" aria-expanded={open} onClick={() => setOpen(!open)}>
        <ChevronRight aria-hidden />
        {title}
        {chosen.length > 0 && !open && <i>{chosen.length} chosen</i>}
      </Head>
      {open && (
        <>
          <ul aria-label={title}>
            {[...lost, ...shown].map((one: Option) => (
              <li key={one.id}>
                <Line
                  type="button"
                  title={one.name}
                  $on={chosen.includes(one.id)}
                  $depth={one.depth ?? 0}
                  aria-pressed={chosen.includes(one.id)}
                  onClick={() => onToggle(one.id)}
                >
                  <b>
                    <bdi>{one.name}</bdi>
                  </b>{" "}
                  <span>{one.count}</span>
                </Line>
              </li>
            ))}
          </ul>
          {options.length > shown.length && (
            <More type="button" onClick={() => setAll(true)}>
              All {options.length}
            </More>
          )}
          {foot}
        </>
      )}
    </section>
  );
}
