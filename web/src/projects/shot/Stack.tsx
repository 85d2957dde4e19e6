import { ArrowDown, ArrowUp, Eye, EyeOff, Trash2 } from "lucide-react";
import { useEffect, useRef } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import type { LayerGiven } from "../../api/projects";
import type { Shot } from "../../api/types";
import { IconButton, WordButton } from "../../kit/Button";
import { NumberBox } from "../../kit/NumberBox";
import { PlainList } from "../../kit/PlainList";
import { StrengthBar } from "../../kit/StrengthBar";
import { Block } from "./parts";
import { oneLine } from "../../kit/oneLine";

const Line = styled.li<{ $off: boolean }>`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  gap: 2px 4px;
  padding: 4px 0;
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  a {
    color: inherit;
    ${oneLine}
    text-decoration: ${(p) => (p.$off ? "line-through" : "underline")};
    text-underline-offset: 3px;
    text-decoration-color: ${(p) => p.theme.tokens.line};
  }
  > span {
    display: flex;
  }
  > div {
    grid-column: 1 / -1;
    display: grid;
    grid-template-columns: minmax(0, 1fr) 44px auto;
    align-items: center;
    gap: 8px;
  }
`;

interface Props {
  readonly shot: Shot;
  readonly layers: readonly LayerGiven[];
  readonly mayWork: boolean;
  readonly onMove: (layers: LayerGiven[], isMoving: boolean) => void;
  readonly onRest: (layers: LayerGiven[]) => void;
  readonly onNewest: () => void;
}

/** Looks and presets on a shot, the first one first, each with its strength; as many as were stacked. */
export function Stack({ shot, layers, mayWork, onMove, onRest, onNewest }: Props) {
  // Keys come faster than what they change is drawn: each goes on from the last.
  const latest = useRef(layers);
  useEffect(() => {
    latest.current = layers;
  }, [layers]);
  const set = (index: number, change: Partial<LayerGiven>) => {
    const next = latest.current.map((one, at) => (at === index ? { ...one, ...change } : one));
    latest.current = next;
    return next;
  };
  /** Past its neighbour: looks among looks, presets among presets. */
  const swapped = (index: number, other: number) =>
    layers.map((one, at) => (at === index ? layers[other] : at === other ? layers[index] : one)) as LayerGiven[];
  const pinned = layers.flatMap((layer, index) => (layer.entry === null || layer.entry === undefined ? [] : [index]));
  return (
    <Block aria-label="Look">
      <h2>Look</h2>
      {pinned.length === 0 && <p>None. Choose one from the tray on the project&rsquo;s wall, or below.</p>}
      <PlainList>
        {pinned.map((index) => {
          const layer = layers[index];
          if (!layer) return null;
          const told = shot.layers.find((one) => one.entry === layer.entry && one.version === layer.version);
          if (!told) return null;
          const strength = layer.strength ?? 1;
          const on = layer.enabled ?? true;
          const place = pinned.indexOf(index);
          const beside = (by: -1 | 1) => {
            const other = pinned[place + by];
            return other !== undefined && layers[other]?.role === layer.role ? other : null;
          };
          const [earlier, later] = [beside(-1), beside(1)];
          return (
            <Line key={index} $off={!on}>
              <Link to={`/shelf/${told.kind ?? "look"}/${String(told.entry)}`}>
                <bdi>{told.name}</bdi>, version {told.version}
                {told.role === "before" ? ", before the look" : ""}
              </Link>
              {mayWork ? (
                <>
                  <span>
                    {(earlier !== null || later !== null) && (
                      <>
                        <IconButton
                          aria-label={`Move ${told.name} earlier`}
                          isDisabled={earlier === null}
                          onPress={() => earlier !== null && onRest(swapped(index, earlier))}
                        >
                          <ArrowUp />
                        </IconButton>
                        <IconButton
                          aria-label={`Move ${told.name} later`}
                          isDisabled={later === null}
                          onPress={() => later !== null && onRest(swapped(index, later))}
                        >
                          <ArrowDown />
                        </IconButton>
                      </>
                    )}
                    <IconButton
                      aria-label={on ? `Switch ${told.name} off` : `Switch ${told.name} on`}
                      onPress={() => onRest(set(index, { enabled: !on }))}
                    >
                      {on ? <Eye /> : <EyeOff />}
                    </IconButton>
                    <IconButton
                      aria-label={`Take ${told.name} off`}
                      onPress={() => onRest(layers.filter((_, at) => at !== index))}
                    >
                      <Trash2 />
                    </IconButton>
                  </span>
                  <div>
                    <StrengthBar
                      label={`Strength of ${told.name}`}
                      value={strength}
                      onChange={(value) => onMove(set(index, { strength: value }), true)}
                      onChangeEnd={() => onRest([...latest.current])}
                    />
                    <NumberBox
                      label={`Strength of ${told.name}, percent`}
                      value={strength * 100}
                      low={0}
                      high={100}
                      step={1}
                      digits={0}
                      neutral={100}
                      onChange={(value) => onRest(set(index, { strength: value / 100 }))}
                    />
                    <span>%</span>
                  </div>
                </>
              ) : (
                <small>{Math.round(strength * 100)} %</small>
              )}
            </Line>
          );
        })}
      </PlainList>
      {mayWork && shot.layers.some((one) => one.newer !== null) && (
        <p>
          A newer version is there. <WordButton onPress={onNewest}>Take it</WordButton>
        </p>
      )}
    </Block>
  );
}
