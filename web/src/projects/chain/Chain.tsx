import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import styled from "styled-components";
import { encodings as encodingsQuery } from "../../api/encodings";
import { pictures as picturesQuery } from "../../api/pictures";
import { shotAdvice, shotDetail, type LayerGiven } from "../../api/projects";
import type { Project, Shot, Step } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { withoutMarks } from "../../kit/PlainList";
import type { ShotDraft } from "../shot/useShotDraft";
import { Source } from "../shot/Source";
import { TrimsPanel } from "../trims/TrimsPanel";
import { useLeftToShots } from "../trims/useLeftToShots";
import { ChainLink } from "./ChainLink";
import type { Choosing } from "./PartChooser";
import { isTrims, ownParts, placesOf } from "./parts";
import { PinnedParts } from "./PinnedParts";
import { PutOnMany } from "./PutOnMany";
import { SharedParts } from "./SharedParts";
import { useInHand } from "./useInHand";
import type { SharedDraft } from "./useSharedDraft";

const Panel = styled.section`
  padding: 14px 16px 6px;
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  > h2 {
    font-size: ${(p) => p.theme.tokens.size.text};
    font-weight: 600;
  }
  > p {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
    padding-bottom: 10px;
  }
`;
const Line = styled.ol`
  ${withoutMarks}
  padding-top: 8px;
`;

interface Props {
  readonly project: Project;
  readonly shot: Shot;
  readonly draft: ShotDraft;
  readonly shared: SharedDraft;
  /** Something is chosen for a place in it. */
  readonly onChoose: (choosing: Choosing) => void;
}

/** All that the light of a shot goes through, from its source to what is delivered, each in its one place. */
export function Chain({ project, shot, draft, shared, onChoose }: Props) {
  const { data: pictures = [] } = useQuery(picturesQuery);
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const { data: detail } = useQuery(shotDetail(project.id, shot.id));
  const { data: advice = [] } = useQuery(shotAdvice(project.id, shot));
  const warned = useMemo(() => new Map(advice.map((one) => [one.layer, one.words])), [advice]);
  const places = placesOf(project, shot);
  const layers = draft.layers ?? draft.stored;
  const own = ownParts(layers, shot.layers);
  const mayWork = project.may_work;
  const left = useLeftToShots(shot, mayWork);
  const picture = pictures.find((one) => one.id === shot.picture);
  const nameOf = (id: string) => encodings.find((one) => one.id === id)?.name ?? id;
  const junctions = detail?.line ?? [];
  const trimsTold = shot.layers.find((one) => one.role === "before" && one.entry === null);
  const after = own.filter((one) => one.layer.role === "after");
  const common = { shot, draft: shared, mayWork, picture, warned, onChoose };
  const pinned = {
    layers,
    mayWork,
    warned,
    inHand: useInHand(layers),
    onMove: draft.look,
    onRest: draft.take,
    onTry: draft.tryOn,
    onChoose,
  };
  const isPinned = (one: LayerGiven) => (one.entry ?? null) !== null;
  return (
    <Panel aria-label="What reaches the eye">
      <h2>What reaches the eye</h2>
      <p>top to bottom as light goes</p>
      <Line>
        <ChainLink label="Source" title="Source" shape="end">
          <Source project={project.id} shot={shot} mayWork={mayWork} onDone={draft.told} />
        </ChainLink>
        <SharedParts place={places.under} {...common} />
        <SharedParts place={places.roll} {...common} />
        <ChainLink
          label="Trims before the look"
          title="Own trims"
          shape="own"
          isOff={draft.trims.length === 0}
          warning={trimsTold && warned.get(trimsTold.id)}
        >
          {mayWork ? (
            <TrimsPanel
              key={detail?.trimmed_in}
              encoding={detail?.trimmed_in ?? shot.encoding}
              steps={draft.trims}
              picture={picture}
              left={left}
              isKeeping={draft.isKeepingTrims}
              onMove={draft.lookAtTrims}
              onRest={draft.keepTrims}
            />
          ) : (
            <p>{wordsOf(draft.trims)}</p>
          )}
        </ChainLink>
        <PinnedParts parts={own.filter(({ layer }) => layer.role === "before" && !isTrims(layer))} {...pinned} />
        <SharedParts place={places.scene} {...common} />
        <PinnedParts parts={own.filter(({ layer }) => layer.role === "look" && isPinned(layer))} {...pinned} />
        {!own.some(({ layer }) => layer.role === "look") && (
          <ChainLink label="Look" title="Look" shape="own" isOff>
            {mayWork ? (
              <p>
                None. <WordButton onPress={() => onChoose(choosingLook(layers, draft))}>Choose one…</WordButton>
              </p>
            ) : (
              <p>None.</p>
            )}
          </ChainLink>
        )}
        <PinnedParts parts={after.filter(({ layer }) => isPinned(layer))} {...pinned} />
        {(mayWork || after.some(({ layer }) => !isPinned(layer))) && (
          <TrimsAfter
            draft={draft}
            encoding={detail?.trimmed_after_in ?? project.delivery}
            mayWork={mayWork}
            picture={picture}
            warned={warned}
          />
        )}
        <SharedParts place={places.over} {...common} />
        <ChainLink label="View" title="View" shape="end" note={project.view} />
        <ChainLink label="Delivered in" title="Delivered in" shape="end" note={nameOf(project.delivery)}>
          {junctions.length > 2 && (
            <p>On the way: {junctions.map((one) => `${nameOf(one.encoding)} (${one.what})`).join(", ")}</p>
          )}
        </ChainLink>
      </Line>
      {mayWork && (
        <p>
          <PutOnMany places={places} draft={shared} onChoose={onChoose} />
          {shot.layers.some((one) => one.newer !== null) && (
            <>
              {" "}
              A newer version is there. <WordButton onPress={draft.takeNewest}>Take it</WordButton>
            </>
          )}
        </p>
      )}
    </Panel>
  );
}

/** A first look on the shot. */
function choosingLook(layers: readonly LayerGiven[], draft: ShotDraft): Choosing {
  const withLook = (entry: number): LayerGiven[] => [
    ...layers,
    { role: "look", entry, steps: null, strength: 1, enabled: true },
  ];
  return {
    label: "Find a look for this shot",
    kinds: ["look", "lut"],
    stack: false,
    onTry: (one) => draft.tryOn(one && withLook(one.id)),
    onTake: (one) => draft.take(withLook(one.id)),
  };
}

const wordsOf = (steps: readonly Step[]) => (steps.length === 0 ? "None." : steps.map((one) => one.kind).join(", "));

interface AfterProps {
  readonly draft: ShotDraft;
  readonly encoding: string;
  readonly mayWork: boolean;
  readonly picture: Parameters<typeof TrimsPanel>[0]["picture"];
  readonly warned: ReadonlyMap<number, string>;
}

/** The shot's own steps after its look. */
function TrimsAfter({ draft, encoding, mayWork, picture, warned }: AfterProps) {
  return (
    <ChainLink
      label="Trims after the look"
      title="Trims after the look"
      shape="own"
      isOff={draft.after.length === 0}
      warning={draft.afterId === null ? undefined : warned.get(draft.afterId)}
    >
      {mayWork ? (
        <TrimsPanel
          encoding={encoding}
          steps={draft.after}
          picture={picture}
          adds="Add a step after the look"
          isKeeping={draft.isKeepingLayers}
          onMove={draft.lookAtAfter}
          onRest={draft.keepAfter}
        />
      ) : (
        <p>{wordsOf(draft.after)}</p>
      )}
    </ChainLink>
  );
}
