import { Fragment, useRef, type PointerEvent } from "react";
import styled, { useTheme } from "styled-components";
import { NumberBox } from "./NumberBox";

const Root = styled.div<{ $columns: number }>`
  display: grid;
  grid-template-columns: 54px repeat(${(p) => p.$columns}, minmax(0, 1fr));
  gap: 6px;
  align-items: center;
  > small {
    font-size: 11px;
    color: ${(p) => p.theme.tokens.soft};
    text-align: center;
  }
  > b {
    display: flex;
    align-items: center;
    gap: 6px;
    font-weight: 500;
    font-size: ${(p) => p.theme.tokens.size.small};
  }
  > b i {
    width: 9px;
    height: 9px;
    border-radius: 50%;
  }
`;
const Cell = styled.div`
  position: relative;
  padding: 3px 6px 9px;
  border-radius: 5px;
  border: 1px solid ${(p) => p.theme.tokens.line};
  background: ${(p) => p.theme.tokens.glaze};
  input {
    text-align: center;
  }
`;
const Bar = styled.div`
  position: absolute;
  left: 6px;
  right: 6px;
  bottom: 1px;
  height: 9px;
  cursor: ew-resize;
  touch-action: none;
  &::before {
    content: "";
    position: absolute;
    left: 0;
    right: 0;
    top: 3.5px;
    height: 2px;
    background: ${(p) => p.theme.tokens.line};
  }
  i {
    position: absolute;
    top: 3.5px;
    height: 2px;
  }
  b {
    position: absolute;
    top: 1px;
    width: 1px;
    height: 7px;
    background: ${(p) => p.theme.tokens.faint};
  }
`;

export interface MatrixCell {
  readonly value: number;
  readonly neutral: number;
  readonly low: number;
  readonly high: number;
  readonly step: number;
  readonly digits: number;
  /** How much of the value the whole bar stands for, about neutral; 2 where it is not given. */
  readonly span?: number;
  readonly onChange: (value: number, moving: boolean) => void;
}

export interface MatrixRow {
  readonly name: string;
  readonly swatch: "master" | "red" | "green" | "blue";
  readonly cells: readonly MatrixCell[];
}

/** A small table of numbers, each with a bar from its neutral value that can be dragged. Rows are outputs. */
export function Matrix({
  label,
  columns,
  rows,
  onDone,
}: {
  label: string;
  columns: readonly string[];
  rows: readonly MatrixRow[];
  onDone: () => void;
}) {
  const { tokens } = useTheme();
  return (
    <Root $columns={columns.length} role="group" aria-label={label}>
      <span />
      {columns.map((name) => (
        <small key={name}>{name}</small>
      ))}
      {rows.map((row) => (
        <Fragment key={row.name}>
          <b>
            <i style={{ background: tokens.graph[row.swatch] }} aria-hidden />
            {row.name}
          </b>
          {row.cells.map((cell, index) => (
            <OneCell
              key={columns[index]}
              cell={cell}
              name={`${row.name}, ${columns[index]}`}
              colour={tokens.graph[row.swatch]}
              onDone={onDone}
            />
          ))}
        </Fragment>
      ))}
    </Root>
  );
}

function OneCell({
  cell,
  name,
  colour,
  onDone,
}: {
  cell: MatrixCell;
  name: string;
  colour: string;
  onDone: () => void;
}) {
  const { value, neutral, low, high, step, digits, span = 2, onChange } = cell;
  const from = useRef<{ x: number; value: number; width: number } | null>(null);
  const share = (at: number) => Math.min(1, Math.max(0, 0.5 + (at - neutral) / (2 * span)));
  const [begin, end] = [Math.min(share(value), 0.5), Math.max(share(value), 0.5)];
  const round = (next: number) => Math.round(Math.min(high, Math.max(low, next)) * 1e4) / 1e4;

  function onPointerMove(event: PointerEvent) {
    const { current } = from;
    if (current)
      onChange(
        round(current.value + ((event.clientX - current.x) / current.width) * 2 * span * (event.shiftKey ? 0.1 : 1)),
        true,
      );
  }
  function release() {
    if (from.current) onDone();
    from.current = null;
  }
  return (
    <Cell>
      <NumberBox
        label={name}
        value={value}
        low={low}
        high={high}
        step={step}
        digits={digits}
        neutral={neutral}
        onChange={(next) => {
          onChange(round(next), false);
          onDone();
        }}
      />
      <Bar
        data-testid={`bar ${name}`}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          from.current = { x: event.clientX, value, width: event.currentTarget.getBoundingClientRect().width };
        }}
        onPointerMove={onPointerMove}
        onPointerUp={release}
        onPointerCancel={release}
        onDoubleClick={() => {
          onChange(neutral, false);
          onDone();
        }}
      >
        <b style={{ left: "50%" }} />
        <i style={{ left: `${begin * 100}%`, width: `${(end - begin) * 100}%`, background: colour }} />
      </Bar>
    </Cell>
  );
}
