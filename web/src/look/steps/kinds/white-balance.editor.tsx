import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import styled, { useTheme } from "styled-components";
import { wordsFor } from "../../../api/client";
import { findNeutral } from "../../../api/seen";
import type { StepOf } from "../../../api/types";
import { Notice } from "../../../kit/Notice";
import { PickButton } from "../../../kit/PickButton";
import { Picker } from "../../../kit/Picker";
import { seenAs } from "../../view/view";
import { usePicking } from "../../view/usePicking";
import { Settings } from "../settings/Settings";
import { useBench } from "../../useBench";
import type { EditorProps } from "../editor";

type WhiteBalance = StepOf<"white-balance">;

const WARM = 150;
const TINT = 0.05;
const [WIDTH, HEIGHT] = [312, 176];
/** Where black bodies lie under a D65 white, which itself stands a little on their green side. */
const BLACK_BODIES = -0.0032;

const settings = {
  warm: { label: "Warm", low: -WARM, high: WARM, neutral: 0, step: 1, digits: 0, unit: "mired" },
  tint: { label: "Green", low: -TINT, high: TINT, neutral: 0, step: 0.0005, digits: 4, unit: "Duv" },
} as const;
const cones = [
  { id: "cat16", name: "CAT16" },
  { id: "bradford", name: "Bradford" },
];

const Svg = styled.svg`
  display: block;
  width: calc(100% - 16px);
  height: auto;
  margin: 8px 8px 0;
  cursor: crosshair;
  touch-action: none;
  overflow: visible;
  circle:focus {
    outline: none;
  }
  circle:focus-visible {
    stroke-width: 4;
  }
  text {
    font-size: 10.5px;
  }
`;
const Row = styled.div`
  margin: 10px 8px 0;
`;
const arrows: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

export default function WhiteBalanceEditor({ step, picture, change, done }: EditorProps<WhiteBalance>) {
  const { store, view } = useBench();
  const [problem, setProblem] = useState<string | null>(null);
  const { tokens } = useTheme();
  const svg = useRef<SVGSVGElement>(null);
  const held = useRef(false);
  const [warm, tint] = [step.warm ?? 0, step.tint ?? 0];
  const x = ((warm + WARM) / (2 * WARM)) * WIDTH;
  const yOf = (duv: number) => HEIGHT - ((duv + TINT) / (2 * TINT)) * HEIGHT;

  const set = (nextWarm: number, nextTint: number) =>
    change(
      "White balance: move white",
      (before) => ({
        ...before,
        warm: Math.round(Math.min(WARM, Math.max(-WARM, nextWarm)) * 10) / 10,
        tint: Math.round(Math.min(TINT, Math.max(-TINT, nextTint)) * 1e5) / 1e5,
      }),
      "pad",
    );

  function follow(event: PointerEvent) {
    const box = svg.current?.getBoundingClientRect();
    if (box)
      set(
        ((event.clientX - box.left) / box.width) * 2 * WARM - WARM,
        TINT - ((event.clientY - box.top) / ((box.width * HEIGHT) / WIDTH)) * 2 * TINT,
      );
  }

  function release() {
    if (held.current) done();
    held.current = false;
  }

  function onKeyDown(event: KeyboardEvent) {
    const way = arrows[event.key];
    if (!way) return;
    const size = event.shiftKey ? 10 : event.altKey ? 0.2 : 1;
    set(warm + way[0] * size, tint + way[1] * size * 0.0005);
    event.preventDefault();
    event.stopPropagation();
  }

  const pick = usePicking("Click something in the picture that should be grey", {
    down: (_, at) => {
      if (!picture) return;
      findNeutral(store.get().look, seenAs(view.get(), picture.id), at, step.id ?? "", step.cones ?? "cat16").then(
        (found) => {
          setProblem(null);
          pick.stop();
          change("White balance: picked neutral", (before) => ({ ...before, warm: found.warm, tint: found.tint }));
          done();
        },
        (error: unknown) => setProblem(wordsFor(error)),
      );
    },
  });

  return (
    <>
      <Svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="group"
        aria-label="Where white goes"
        data-testid="white-pad"
        onPointerMove={(event) => held.current && follow(event)}
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          held.current = true;
          svg.current?.setPointerCapture(event.pointerId);
          follow(event);
        }}
        onPointerUp={release}
        onPointerCancel={release}
        onDoubleClick={() => {
          set(0, 0);
          done();
        }}
      >
        <rect width={WIDTH} height={HEIGHT} rx={4} fill={tokens.graph.field} />
        <path d={`M${WIDTH / 2} 0V${HEIGHT}M0 ${HEIGHT / 2}H${WIDTH}`} stroke={tokens.graph.grid} />
        <path d={`M0 ${yOf(BLACK_BODIES)}H${WIDTH}`} stroke={tokens.graph.diagonal} strokeDasharray="3 4" />
        <text x={8} y={yOf(BLACK_BODIES) + 14} fill={tokens.soft}>
          cooler
        </text>
        <text x={WIDTH - 8} y={yOf(BLACK_BODIES) + 14} fill={tokens.soft} textAnchor="end">
          warmer, along black bodies
        </text>
        <text x={WIDTH / 2 + 6} y={14} fill={tokens.soft}>
          green
        </text>
        <text x={WIDTH / 2 + 6} y={HEIGHT - 7} fill={tokens.soft}>
          magenta
        </text>
        <circle
          cx={x}
          cy={yOf(tint)}
          r={6.5}
          fill={tokens.glaze}
          stroke={tokens.ink}
          strokeWidth={2}
          tabIndex={0}
          role="slider"
          aria-label="White"
          aria-valuenow={warm}
          aria-valuemin={-WARM}
          aria-valuemax={WARM}
          aria-valuetext={`${Math.abs(warm).toFixed(0)} mired ${warm < 0 ? "cooler" : "warmer"}, ${Math.abs(tint).toFixed(4)} Duv ${tint < 0 ? "magenta" : "green"}`}
          onKeyDown={onKeyDown}
          onKeyUp={(event) => arrows[event.key] && done()}
        />
      </Svg>
      <Row>
        <PickButton label="Pick a neutral" isOn={pick.picking} onToggle={pick.toggle} />
      </Row>
      {problem && <Notice>{problem}</Notice>}
      <Settings title="White balance" step={step} settings={settings} change={change} done={done} />
      <Picker
        label="Adapts by"
        value={step.cones ?? "cat16"}
        options={cones}
        onChange={(value) =>
          change("White balance: adaptation", (before) => ({
            ...before,
            cones: value as NonNullable<WhiteBalance["cones"]>,
          }))
        }
      />
    </>
  );
}
