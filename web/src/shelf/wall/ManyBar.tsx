import { useQuery } from "@tanstack/react-query";
import { useId, useState, type ReactNode } from "react";
import { Button, Dialog, DialogTrigger } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { categories as categoriesQuery, tags as tagsQuery, useChangeMany, useUndoMany } from "../../api/shelf";
import { useMay } from "../../api/session";
import type { Entry, ManyChange } from "../../api/types";
import { GuestSheet } from "../../guests/GuestSheet";
import { Primary, Secondary, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Menu, Picker } from "../../kit/Picker";
import { TextBox, TextInput } from "../../kit/TextBox";
import { MOST } from "../board/useBoard";
import { PackSheet } from "../packing/PackSheet";
import { passOnNames } from "../words";
import { withoutMarks } from "../../kit/PlainList";

const Bar = styled.div`
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 54px;
  padding: 8px 22px;
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  > span:first-child {
    margin-right: 8px;
    font-weight: 600;
  }
  > :last-child {
    margin-left: auto;
  }
`;
const Form = styled(Dialog)`
  display: grid;
  gap: 10px;
  padding: 10px;
  width: 260px;
  outline: none;
`;
const Fields = styled.form`
  display: grid;
  gap: 10px;
`;
const Names = styled.ul`
  ${withoutMarks}
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  button {
    border: 1px solid ${(p) => p.theme.tokens.line};
    border-radius: 12px;
    background: none;
    padding: 2px 9px;
    cursor: pointer;
    color: ${(p) => p.theme.tokens.ink};
  }
`;

/** Something to be said of all of them, in a small form that rises from its button. */
function Asking({ name, children }: { name: string; children: (close: () => void) => ReactNode }) {
  return (
    <DialogTrigger>
      <Secondary>{name}</Secondary>
      <Menu placement="top start">
        <Form aria-label={name}>{({ close }) => children(close)}</Form>
      </Menu>
    </DialogTrigger>
  );
}

/** Enter takes what was typed. */
function Taking({ onTake, children }: { onTake: () => void; children: ReactNode }) {
  return (
    <Fields
      onSubmit={(event) => {
        event.preventDefault();
        onTake();
      }}
    >
      {children}
    </Fields>
  );
}

function Proposals({ id, names }: { id: string; names: readonly string[] }) {
  return (
    <datalist id={id}>
      {names.map((one) => (
        <option key={one} value={one} />
      ))}
    </datalist>
  );
}

function Tagging({ shared, onDone }: { shared: readonly string[]; onDone: (change: Partial<ManyChange>) => void }) {
  const { data: known = [] } = useQuery(tagsQuery);
  const [tag, setTag] = useState("");
  const list = useId();
  return (
    <Taking onTake={() => tag.trim() && onDone({ add_tags: [tag.trim()] })}>
      <TextBox label="Add a tag" value={tag} onChange={setTag} maxLength={40} list={list} autoFocus />
      <Proposals id={list} names={known.map((one) => one.name)} />
      {shared.length > 0 && (
        <>
          <small>Take off</small>
          <Names>
            {shared.map((name) => (
              <li key={name}>
                <Button aria-label={`Take ${name} off`} onPress={() => onDone({ remove_tags: [name] })}>
                  {name}
                </Button>
              </li>
            ))}
          </Names>
        </>
      )}
      <Primary type="submit" isDisabled={tag.trim() === ""}>
        Add
      </Primary>
    </Taking>
  );
}

function Filing({ onDone }: { onDone: (change: Partial<ManyChange>) => void }) {
  const { data: known = [] } = useQuery(categoriesQuery);
  const [category, setCategory] = useState("");
  const list = useId();
  return (
    <Taking onTake={() => onDone({ category })}>
      <TextBox
        label="Category"
        value={category}
        onChange={setCategory}
        maxLength={200}
        list={list}
        placeholder="None, or a path: Film/Night"
        autoFocus
      />
      <Proposals id={list} names={known} />
      <Primary type="submit">File them there</Primary>
    </Taking>
  );
}

const STATES = [
  ["proposed", "Propose them"],
  ["draft", "Take them back"],
  ["published", "Publish them"],
  ["retired", "Retire them"],
] as const;

/** May they be passed on, until when, under which licence; what is left as it is stays. */
function Rights({ onDone }: { onDone: (change: Partial<ManyChange>) => void }) {
  const [pass, setPass] = useState("");
  const [licence, setLicence] = useState("");
  const [until, setUntil] = useState("");
  const change: Partial<ManyChange> = {
    ...(pass ? { may_pass_on: pass as Entry["may_pass_on"] } : {}),
    ...(licence.trim() ? { licence: licence.trim() } : {}),
    ...(until ? { pass_on_until: until } : {}),
  };
  return (
    <>
      <Picker
        label="May they be passed on?"
        value={pass}
        options={[
          { id: "", name: "As it is" },
          ...(["yes", "no", "unknown"] as const).map((id) => ({ id, name: passOnNames[id] ?? id })),
        ]}
        onChange={setPass}
      />
      <label style={{ display: "grid", gap: 3 }}>
        <small>Until</small>
        <TextInput type="date" value={until} onChange={(event) => setUntil(event.target.value)} />
      </label>
      <TextBox label="Licence" value={licence} onChange={setLicence} maxLength={200} placeholder="As it is" />
      <Primary isDisabled={Object.keys(change).length === 0} onPress={() => onDone(change)}>
        Change it for all
      </Primary>
    </>
  );
}

interface Props {
  readonly chosen: readonly Entry[];
  readonly onClear: () => void;
  readonly onCompare: (entries: readonly Entry[]) => void;
  readonly mayDesign: boolean;
}

/** What can be done to all that is chosen; every change of it can be taken back. */
export function ManyBar({ chosen, onClear, onCompare, mayDesign }: Props) {
  const change = useChangeMany();
  const undo = useUndoMany();
  const curates = useMay("curate");
  const [packing, setPacking] = useState(false);
  const [showing, setShowing] = useState(false);
  const [said, setSaid] = useState<{ words: string; undo: number | null } | null>(null);
  const mine = chosen.filter((entry) => entry.may_change);
  const shared = [...new Set(chosen.flatMap((entry) => entry.tags))].sort();
  const trouble = change.error ?? undo.error;

  function send(what: Partial<ManyChange>, words: string, close?: () => void) {
    undo.reset();
    change.mutate(
      { entries: chosen.map((entry) => entry.id), add_tags: [], remove_tags: [], delete: false, ...what },
      {
        onSuccess: (done) => {
          setSaid({ words: `${done.count} ${words}.`, undo: done.undo });
          close?.();
          if (what.delete) onClear();
        },
      },
    );
  }

  if (chosen.length === 0 && !said) return null;
  const may = chosen.length > 0 && mine.length === chosen.length;
  return (
    <Bar role="group" aria-label="What is chosen">
      {chosen.length > 0 && (
        <>
          <span>{chosen.length} chosen</span>
          {chosen.length <= MOST ? (
            <Secondary onPress={() => onCompare(chosen)}>Compare</Secondary>
          ) : (
            <small>Up to {MOST} can be compared</small>
          )}
          {mayDesign && <Secondary onPress={() => setPacking(true)}>Pack…</Secondary>}
          {mayDesign && <Secondary onPress={() => setShowing(true)}>Show to guests…</Secondary>}
        </>
      )}
      {packing && <PackSheet entries={chosen.map((entry) => entry.id)} onClose={() => setPacking(false)} />}
      {showing && (
        <GuestSheet
          shows={{ entries: chosen.map((entry) => entry.id) }}
          name={chosen.length === 1 ? (chosen[0]?.name ?? "it") : `${String(chosen.length)} entries`}
          onClose={() => setShowing(false)}
        />
      )}
      {may && (
        <>
          <Asking name="Tags…">
            {(close) => <Tagging shared={shared} onDone={(what) => send(what, "tagged anew", close)} />}
          </Asking>
          <Asking name="Category…">{(close) => <Filing onDone={(what) => send(what, "filed anew", close)} />}</Asking>
          <Asking name="Rights…">{(close) => <Rights onDone={(what) => send(what, "changed", close)} />}</Asking>
          <Asking name="State…">
            {(close) =>
              (curates ? STATES : STATES.slice(0, 2)).map(([state, word]) => (
                <Secondary key={state} onPress={() => send({ state }, "moved", close)}>
                  {word}
                </Secondary>
              ))
            }
          </Asking>
          <Secondary onPress={() => send({ delete: true }, "deleted; they can be brought back for 30 days")}>
            Delete
          </Secondary>
        </>
      )}
      {mayDesign && chosen.length > 0 && !may && (
        <span>
          {mine.length === 0 ? "They belong to others" : `${chosen.length - mine.length} belong to others`}; a curator
          can change them.
        </span>
      )}
      {trouble ? (
        <Notice>{wordsFor(trouble)}</Notice>
      ) : (
        said && (
          <span role="status">
            {said.words}{" "}
            {said.undo !== null && (
              <WordButton
                onPress={() => {
                  const { undo: number } = said;
                  if (number !== null)
                    undo.mutate(number, {
                      onSuccess: (done) =>
                        setSaid({
                          words:
                            done.left.length === 0
                              ? "Taken back."
                              : `Taken back, but for ${done.left.join(", ")}: changed since by somebody.`,
                          undo: null,
                        }),
                    });
                }}
              >
                Undo
              </WordButton>
            )}
          </span>
        )
      )}
      <WordButton
        onPress={() => {
          setSaid(null);
          onClear();
        }}
      >
        Done
      </WordButton>
    </Bar>
  );
}
