import { Pencil, Trash2, Undo2 } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useDeleteEntry, useRestoreEntry } from "../../api/shelf";
import type { Preset } from "../../api/types";
import { Star } from "../../entries/Star";
import { IconButton, Primary, Secondary, WordButton } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Notice } from "../../kit/Notice";
import { PresetSheet } from "../presets/PresetSheet";
import type { Candidate } from "./candidates";
import { oneLine } from "../../kit/oneLine";

export type Way = "add" | "replace";

const Root = styled.footer`
  display: grid;
  gap: 8px;
  padding: 10px 16px 14px;
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  min-height: 96px;
  align-content: start;
  p {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
    line-height: 1.4;
    max-height: 48px;
    overflow: hidden;
  }
`;
const Head = styled.div`
  display: flex;
  align-items: center;
  gap: 4px;
  min-height: 30px;
  b {
    flex: 1;
    font-weight: 600;
    ${oneLine}
  }
`;
interface Props {
  readonly candidate: Candidate | null;
  readonly way: Way;
  readonly onWay: (way: Way) => void;
  /** What a preset or LUT would take the place of; null where there is nothing to replace. */
  readonly replaceable: string | null;
  /** What is to be known before it is added: that something of its kind is there already. */
  readonly warning: string | null;
  readonly onKeep: () => void;
  /** Of a LUT: put in, and taken apart into steps; null of anything else. */
  readonly onApart: (() => void) | null;
}

/** What is being tried, and whether it comes in addition or instead. */
export function AddFoot({ candidate, way, onWay, replaceable, warning, onKeep, onApart }: Props) {
  const [editing, setEditing] = useState<Preset | null>(null);
  const [deleted, setDeleted] = useState<Preset | null>(null);
  const remove = useDeleteEntry();
  const restore = useRestoreEntry();
  const preset = candidate?.preset;
  const problem = remove.error ?? restore.error;
  return (
    <Root aria-label="What is being tried">
      {replaceable && (
        <Choice
          label="Presets and LUTs"
          value={way}
          onChange={onWay}
          options={[
            ["replace", `Replace ${replaceable}`],
            ["add", "Add as well"],
          ]}
        />
      )}
      {candidate ? (
        <>
          <Head>
            <b>{candidate.name}</b>
            {candidate.entry && <Star entry={candidate.entry} />}
            {preset && (
              <>
                {preset.may_change && (
                  <IconButton aria-label={`Change ${preset.name}`} onPress={() => setEditing(preset)}>
                    <Pencil aria-hidden />
                  </IconButton>
                )}
                {preset.may_change && (
                  <IconButton
                    aria-label={`Delete ${preset.name}`}
                    onPress={() => remove.mutate({ kind: "preset", id: preset.id, onGone: () => setDeleted(preset) })}
                  >
                    <Trash2 aria-hidden />
                  </IconButton>
                )}
              </>
            )}
            {onApart && <Secondary onPress={onApart}>As steps</Secondary>}
            <Primary onPress={onKeep}>
              {way === "replace" && replaceable && candidate.section !== "Steps" ? "Replace" : "Add"}
            </Primary>
          </Head>
          {warning && <p>{warning}</p>}
          <p>{candidate.example ? "Starts at neutral; disc and picture show an example of it." : candidate.note}</p>
        </>
      ) : (
        <p>Point at anything to try it on the picture. Enter keeps it, Escape leaves the look as it was.</p>
      )}
      {deleted && (
        <p>
          <bdi>{deleted.name}</bdi> is deleted.{" "}
          <WordButton
            onPress={() => restore.mutate({ kind: "preset", id: deleted.id }, { onSuccess: () => setDeleted(null) })}
          >
            <Undo2 size={12} aria-hidden /> Bring it back
          </WordButton>
        </p>
      )}
      {problem && <Notice>{wordsFor(problem)}</Notice>}
      {editing && <PresetSheet preset={editing} onClose={() => setEditing(null)} />}
    </Root>
  );
}
