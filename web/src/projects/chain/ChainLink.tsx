import { TriangleAlert } from "lucide-react";
import { useEffect, useRef, useState, type ReactNode } from "react";
import styled, { css } from "styled-components";
import { oneLine } from "../../kit/oneLine";

/** own: of the shot alone; many: of more than one; end: where light comes from or goes to */
type Shape = "own" | "many" | "end";

const Root = styled.li<{ $drop: boolean }>`
  position: relative;
  padding: 0 0 10px 26px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 2px;
  &:not(:last-child)::before {
    content: "";
    position: absolute;
    left: 7px;
    top: 20px;
    bottom: -7px;
    width: 1px;
    background: ${(p) => p.theme.tokens.line};
  }
  ${(p) =>
    p.$drop &&
    css`
      box-shadow: inset 0 2px ${p.theme.tokens.accent};
    `}
`;
interface Drawn {
  readonly $shape: Shape;
  readonly $off: boolean;
}
const shape = css<Drawn>`
  position: absolute;
  left: 0;
  top: 6px;
  width: 15px;
  height: 15px;
  padding: 0;
  border: 3px solid ${(p) => p.theme.tokens.glaze};
  border-radius: ${(p) => (p.$shape === "many" ? "4px" : "50%")};
  background: ${(p) => (p.$shape === "end" || p.$off ? p.theme.tokens.glaze : p.theme.tokens.ink)};
  outline: ${(p) => (p.$shape === "end" || p.$off ? `1.5px solid ${p.$shape === "end" ? p.theme.tokens.ink : p.theme.tokens.faint}` : "0")};
  outline-offset: -3px;
`;
const Mark = styled.span<Drawn>`
  ${shape}
`;
const Grip = styled.button<Drawn>`
  ${shape}
  cursor: grab;
  &:focus-visible {
    outline: 2px solid ${(p) => p.theme.tokens.accent};
    outline-offset: 0;
  }
`;
const Head = styled.div`
  display: flex;
  align-items: center;
  gap: 2px 6px;
  min-height: 28px;
  min-width: 0;
  h3 {
    font-size: ${(p) => p.theme.tokens.size.text};
    font-weight: 600;
    min-width: 0;
    flex: 1;
    ${oneLine}
  }
  h3 a {
    color: inherit;
    text-decoration-color: ${(p) => p.theme.tokens.line};
    text-underline-offset: 3px;
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
    white-space: nowrap;
  }
`;
const Badge = styled.small`
  border: 1px solid ${(p) => p.theme.tokens.line};
  border-radius: ${(p) => p.theme.tokens.radius.pill};
  padding: 0 8px;
  max-width: 150px;
  ${oneLine}
`;
const Body = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
  p {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
const Warned = styled.p`
  display: grid;
  grid-template-columns: 15px 1fr;
  gap: 5px;
  && {
    color: ${(p) => p.theme.tokens.caution};
  }
  svg {
    width: 13px;
    height: 13px;
    margin-top: 2px;
  }
`;

/** How a part is moved: by its dot, or Alt and arrows on it. lane: among those of which it can be dropped on another */
export interface Moving {
  readonly name: string;
  readonly lane: string;
  readonly at: number;
  readonly onBy: (by: -1 | 1) => void;
  /** What was dropped here comes to stand in this place. */
  readonly onDrop: (from: number) => void;
}

interface Props {
  readonly label: string;
  readonly title: ReactNode;
  readonly shape: Shape;
  readonly isOff?: boolean;
  /** Whom it is for, where it is for many. */
  readonly badge?: string;
  readonly note?: ReactNode;
  readonly tools?: ReactNode;
  readonly warning?: string | undefined;
  readonly moving?: Moving | undefined;
  /** It was moved just now: the keys stay with it. */
  readonly isMoved?: boolean;
  readonly children?: ReactNode;
}

let dragged: { lane: string; at: number } | null = null;

/** One part of what the light of a shot goes through, on the line that joins them. */
export function ChainLink(props: Props) {
  const { label, title, isOff = false, badge, note, tools, warning, moving, isMoved = false, children } = props;
  const [isOver, setOver] = useState(false);
  const grip = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (isMoved) grip.current?.focus();
  }, [isMoved, moving?.at]);
  const takes = () => moving && dragged?.lane === moving.lane && dragged.at !== moving.at;
  return (
    <Root
      $drop={isOver}
      aria-label={label}
      onDragOver={(event) => {
        if (!takes()) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        setOver(false);
        if (!takes() || !dragged || !moving) return;
        event.preventDefault();
        moving.onDrop(dragged.at);
        dragged = null;
      }}
    >
      {moving ? (
        <Grip
          ref={grip}
          type="button"
          draggable
          $shape={props.shape}
          $off={isOff}
          aria-label={`Move ${moving.name}`}
          title="Drag it, or Alt and an arrow key"
          onDragStart={(event) => {
            dragged = moving;
            event.dataTransfer.effectAllowed = "move";
            event.dataTransfer.setData("text/plain", moving.name);
          }}
          onDragEnd={() => {
            dragged = null;
          }}
          onKeyDown={(event) => {
            const by = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : null;
            if (by === null || !event.altKey) return;
            event.preventDefault();
            moving.onBy(by);
          }}
        />
      ) : (
        <Mark $shape={props.shape} $off={isOff} aria-hidden />
      )}
      <Head>
        <h3>{title}</h3>
        {badge && <Badge title={badge}>{badge}</Badge>}
        {note && <small>{note}</small>}
        {tools}
      </Head>
      {(children !== undefined || warning) && (
        <Body>
          {warning && (
            <Warned>
              <TriangleAlert aria-label="To be known" />
              {warning}
            </Warned>
          )}
          {children}
        </Body>
      )}
    </Root>
  );
}
