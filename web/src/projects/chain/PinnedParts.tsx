import { ArrowLeftRight, Eye, EyeOff, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import type { LayerGiven } from "../../api/projects";
import { IconButton } from "../../kit/Button";
import { ChainLink } from "./ChainLink";
import type { Choosing } from "./PartChooser";
import { movedBy, movedTo, type Moved, type OwnPart, type Told } from "./parts";
import { Strength } from "./Strength";
import { WhichOfFamily } from "./WhichOfFamily";
import type { InHand } from "./useInHand";

export const nameOfPinned = (told: Told) => (
  <Link to={`/shelf/${told.kind ?? "look"}/${String(told.entry)}`}>
    <bdi>{told.name}</bdi>
  </Link>
);

interface Props {
  readonly parts: readonly OwnPart[];
  /** All of the shot's own, of which the parts are some. */
  readonly layers: readonly LayerGiven[];
  readonly mayWork: boolean;
  readonly warned: ReadonlyMap<number, string>;
  readonly inHand: InHand;
  readonly onMove: (layers: LayerGiven[], isMoving: boolean) => void;
  readonly onRest: (layers: LayerGiven[]) => void;
  readonly onTry: (layers: LayerGiven[] | null) => void;
  readonly onChoose: (choosing: Choosing) => void;
}

/** Looks, LUTs and presets of a shot in their places, each with its strength; moved by its dot or by keys, and swapped for another. */
export function PinnedParts({ parts, layers, mayWork, warned, inHand, onMove, onRest, onTry, onChoose }: Props) {
  const [taken, setTaken] = useState<number | null>(null);
  const set = (index: number, change: Partial<LayerGiven>) =>
    inHand.keep(inHand.layers().map((one, at) => (at === index ? { ...one, ...change } : one)));
  const placed = (found: Moved | null, key: string) => {
    if (found) onRest(inHand.moved(key, found));
  };
  const swap = ({ at, layer }: OwnPart, told: Told) => {
    const withOther = (entry: number) =>
      inHand.layers().map((one, index) => (index === at ? { ...one, entry, version: null, member: "" } : one));
    onChoose({
      label: `In the place of ${told.name}`,
      kinds: layer.role === "look" ? ["look", "lut"] : ["preset", "lut"],
      ...(told.entry === null ? {} : { except: told.entry }),
      stack: false,
      onTry: (one) => onTry(one && withOther(one.id)),
      onTake: (one) => {
        setTaken(one.id);
        onRest(inHand.keep(withOther(one.id)));
      },
    });
  };
  return (
    <>
      {parts.map((part) => {
        const { key, at, layer, told } = part;
        if (!told) return <ChainLink key={key} label="Being kept" title="Being kept…" shape="own" isOff />;
        const on = layer.enabled ?? true;
        const strength = layer.strength ?? 1;
        return (
          <ChainLink
            key={key}
            label={told.name}
            title={nameOfPinned(told)}
            shape="own"
            isOff={!on}
            isMoved={inHand.isMoved(key)}
            note={`${layer.member && !mayWork ? `${layer.member}, ` : ""}version ${String(told.version)}`}
            warning={warned.get(told.id)}
            moving={
              mayWork
                ? {
                    name: told.name,
                    lane: "own",
                    at,
                    onBy: (by) => placed(movedBy(inHand.layers(), inHand.placeOf(key, at), by), key),
                    onDrop: (from) => placed(movedTo(inHand.layers(), from, at), key),
                  }
                : undefined
            }
            tools={
              mayWork && (
                <>
                  <IconButton
                    aria-label={`Swap ${told.name}`}
                    // The keys stay with what they have chosen.
                    autoFocus={taken === told.entry}
                    onBlur={() => setTaken(null)}
                    onPress={() => swap(part, told)}
                  >
                    <ArrowLeftRight />
                  </IconButton>
                  <IconButton
                    aria-label={on ? `Switch ${told.name} off` : `Switch ${told.name} on`}
                    onPress={() => onRest(set(at, { enabled: !on }))}
                  >
                    {on ? <Eye /> : <EyeOff />}
                  </IconButton>
                  <IconButton
                    aria-label={`Take ${told.name} off`}
                    onPress={() => onRest(layers.filter((_, index) => index !== at))}
                  >
                    <Trash2 />
                  </IconButton>
                </>
              )
            }
          >
            {mayWork && told.kind === "look" && told.entry !== null && told.version !== null && (
              <WhichOfFamily
                name={told.name}
                look={told.entry}
                version={told.version}
                member={layer.member ?? ""}
                onChange={(member) => onRest(set(at, { member }))}
              />
            )}
            {told.lost !== null && (
              <p>
                Version {told.lost} has no <bdi>{told.member}</bdi>.
                {mayWork && " With another of the family it can be taken."}
              </p>
            )}
            {mayWork ? (
              <Strength
                name={told.name}
                value={strength}
                onMove={(value) => onMove(set(at, { strength: value }), true)}
                onRest={(value) => onRest(set(at, { strength: value }))}
                onEnd={() => onRest([...inHand.layers()])}
              />
            ) : (
              <p>{Math.round(strength * 100)} %</p>
            )}
          </ChainLink>
        );
      })}
    </>
  );
}
