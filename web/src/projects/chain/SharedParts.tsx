import { ArrowLeftRight, Eye, EyeOff, Trash2 } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import type { SharedLayerGiven } from "../../api/projects";
import type { Picture, Shot, Step } from "../../api/types";
import { IconButton, WordButton } from "../../kit/Button";
import { TrimsPanel } from "../trims/TrimsPanel";
import { ChainLink } from "./ChainLink";
import type { Choosing } from "./PartChooser";
import { keyOf, nameOfShared, sharedGiven, swapped, type SharedPlace } from "./parts";
import { nameOfPinned } from "./PinnedParts";
import { Strength } from "./Strength";
import type { SharedDraft } from "./useSharedDraft";
import { WhichOfFamily } from "./WhichOfFamily";

interface Props {
  readonly place: SharedPlace | null;
  readonly shot: Shot;
  readonly draft: SharedDraft;
  readonly mayWork: boolean;
  readonly picture: Picture | undefined;
  readonly warned: ReadonlyMap<number, string>;
  readonly onChoose: (choosing: Choosing) => void;
}

const KINDS = { roll: "roll", scene: "scene", project: "project", shot: "shot" } as const;

/** In words whom a place is for. */
export function badgeOf({ spot, name, reached }: SharedPlace): string {
  const who = spot.reach === "project" ? KINDS.project : name;
  return `${who} · ${String(reached)} ${reached === 1 ? "shot" : "shots"}`;
}

/** What lies in one place for many shots, as this shot meets it: changed for all of them, or switched off for this one. */
export function SharedParts({ place, ...rest }: Props) {
  return place && place.layers.length > 0 ? <Lying key={place.key} place={place} {...rest} /> : null;
}

function Lying({ place, shot, draft, mayWork, picture, warned, onChoose }: Props & { readonly place: SharedPlace }) {
  const [moved, setMoved] = useState<number | null>(null);
  const looked = draft.given && keyOf(draft.given) === place.key ? draft.given.layers : null;
  const layers = looked ?? sharedGiven(place.layers);
  // Keys come faster than what they change is drawn: each goes on from the last.
  const latest = useRef(layers);
  useEffect(() => {
    latest.current = layers;
  }, [layers]);
  const set = (at: number, change: Partial<SharedLayerGiven>) => {
    latest.current = latest.current.map((one, index) => (index === at ? { ...one, ...change } : one));
    return latest.current;
  };
  const move = (from: number, to: number) => {
    const next = swapped(layers, from, to);
    if (!next) return;
    setMoved(to);
    draft.take(place, next);
  };
  const choose = (at: number, name: string, entry: number) => {
    const withOther = (other: number) =>
      latest.current.map((one, index) => (index === at ? { ...one, entry: other, version: null, member: "" } : one));
    onChoose({
      label: `In the place of ${name}, ${badgeOf(place)}`,
      kinds: ["look", "lut", "preset"],
      except: entry,
      stack: false,
      onTry: (one) => draft.tryOn(place, one && withOther(one.id)),
      onTake: (one) => {
        latest.current = withOther(one.id);
        draft.take(place, latest.current);
      },
    });
  };
  return (
    <>
      {layers.map((layer, at) => {
        const told =
          (layer.entry ?? null) === null
            ? place.layers[at]
            : place.layers.find((one) => one.entry === layer.entry && one.version === layer.version);
        const name = told ? nameOfShared(told) : "Correction";
        const acts = layer.enabled ?? true;
        const offHere = (layer.off_on ?? []).includes(shot.id);
        const id = place.layers[at]?.id;
        return (
          <ChainLink
            key={at}
            label={`${name}, for ${place.name}`}
            title={told && told.entry !== null ? nameOfPinned(told) : name}
            shape="many"
            isOff={!acts || offHere}
            isMoved={moved === at}
            badge={badgeOf(place)}
            warning={id === undefined ? undefined : warned.get(id)}
            moving={
              mayWork && layers.length > 1
                ? {
                    name,
                    lane: place.key,
                    at,
                    onBy: (by) => move(at, at + by),
                    onDrop: (from) => move(from, at),
                  }
                : undefined
            }
            tools={
              mayWork && (
                <>
                  {told && told.entry !== null && (
                    <IconButton aria-label={`Swap ${name} for all`} onPress={() => choose(at, name, told.entry ?? 0)}>
                      <ArrowLeftRight />
                    </IconButton>
                  )}
                  <IconButton
                    aria-label={acts ? `Switch ${name} off for all` : `Switch ${name} on for all`}
                    onPress={() => draft.take(place, set(at, { enabled: !acts }))}
                  >
                    {acts ? <Eye /> : <EyeOff />}
                  </IconButton>
                  <IconButton
                    aria-label={`Take ${name} off for all`}
                    onPress={() =>
                      draft.take(
                        place,
                        layers.filter((_, index) => index !== at),
                      )
                    }
                  >
                    <Trash2 />
                  </IconButton>
                </>
              )
            }
          >
            {offHere && <p>Off on this shot.</p>}
            {mayWork && told?.kind === "look" && told.entry !== null && told.version !== null && (
              <WhichOfFamily
                name={told.name}
                look={told.entry}
                version={told.version}
                member={layer.member ?? ""}
                onChange={(member) => draft.take(place, set(at, { member }))}
              />
            )}
            {mayWork && (layer.entry ?? null) === null && (
              <TrimsPanel
                encoding={shot.encoding}
                steps={(layer.steps ?? []) as unknown as Step[]}
                picture={picture}
                adds="Add a step for all"
                isKeeping={draft.isKeeping}
                onMove={(steps, isMoving) => draft.look(place, set(at, { steps: [...steps] as never }), isMoving)}
                onRest={(steps) => draft.take(place, set(at, { steps: [...steps] as never }))}
              />
            )}
            {mayWork ? (
              (layer.entry ?? null) !== null && (
                <Strength
                  name={name}
                  value={layer.strength ?? 1}
                  onMove={(value) => draft.look(place, set(at, { strength: value }), true)}
                  onRest={(value) => draft.take(place, set(at, { strength: value }))}
                  onEnd={() => draft.take(place, latest.current)}
                />
              )
            ) : (
              <p>{Math.round((layer.strength ?? 1) * 100)} %</p>
            )}
            {mayWork && id !== undefined && (
              <p>
                <WordButton onPress={() => draft.turn(id, [shot.id], offHere)}>
                  {offHere ? "Take it on this shot again" : "Off on this shot"}
                </WordButton>
              </p>
            )}
          </ChainLink>
        );
      })}
    </>
  );
}
