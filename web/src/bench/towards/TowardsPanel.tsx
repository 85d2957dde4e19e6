import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useEffect, useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useTowards } from "../../api/looks";
import { discOf, pictures as picturesQuery } from "../../api/pictures";
import { projects as projectsQuery } from "../../api/projects";
import type { Picture, Towards } from "../../api/types";
import { IconButton, Secondary } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Disc } from "../../kit/Disc";
import { Notice } from "../../kit/Notice";
import { oneLine } from "../../kit/oneLine";
import { withoutMarks } from "../../kit/PlainList";
import { TextBox } from "../../kit/TextBox";
import { withIds } from "../../look/arrange";
import { shownLook } from "../../look/store";
import { useBench } from "../../look/useBench";
import { BringInSheet } from "../../media/BringInSheet";
import { Proposals } from "./Proposals";
import { SceneChoice } from "./SceneChoice";
import { MOST, subjectsOf, type Subject } from "./subjects";

const Root = styled.section`
  position: absolute;
  z-index: 5;
  right: 0;
  top: 0;
  bottom: 0;
  width: 344px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  padding: 12px 16px 16px;
  overflow-y: auto;
  background: ${(p) => p.theme.tokens.glaze};
  border-left: 1px solid ${(p) => p.theme.tokens.line};
  /* What is too much scrolls: the list of pictures would give way to nothing. */
  > * {
    flex: none;
  }
  header {
    display: flex;
    align-items: center;
    h2 {
      flex: 1;
      font-weight: 600;
    }
  }
  > p {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
    margin: 0;
  }
`;
const Wanted = styled.ul`
  ${withoutMarks}
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(68px, 1fr));
  gap: 6px;
  max-height: 252px;
  overflow-y: auto;
  /* Of hundreds only those in sight are fetched. */
  li {
    content-visibility: auto;
    contain-intrinsic-size: 68px 78px;
  }
  button {
    display: grid;
    justify-items: center;
    gap: 3px;
    width: 100%;
    padding: 4px 2px;
    border: 0;
    background: none;
    cursor: pointer;
    color: inherit;
    font-size: ${(p) => p.theme.tokens.size.small};
  }
  button:focus-visible {
    outline: 2px solid ${(p) => p.theme.tokens.ink};
    border-radius: 6px;
  }
  span {
    max-width: 66px;
    ${oneLine}
  }
`;
const FEW = 8;

type Reference = Pick<Picture, "id" | "name">;
type Over = "one" | "all" | "scene";

interface Props {
  readonly picture: Picture | undefined;
  readonly tray: readonly Picture[];
  readonly onSaid: (words: string) => void;
  readonly onClose: () => void;
}

/** A picture whose colours are wanted is chosen; what brings the look there is tried by pointing at it, and put in by a press. */
export function TowardsPanel({ picture, tray, onSaid, onClose }: Props) {
  const { store, view } = useBench();
  const { data: all = [] } = useQuery(picturesQuery);
  const [search, setSearch] = useState("");
  const [reference, setReference] = useState<Reference | null>(null);
  const [over, setOver] = useState<Over>("one");
  const [ofScene, setOfScene] = useState<readonly Subject[]>([]);
  const { data: projects = [] } = useQuery(projectsQuery);
  const [bringing, setBringing] = useState(false);
  const ask = useTowards();
  useEffect(() => () => store.dispatch({ type: "try", look: null }), [store]);

  const words = search.toLowerCase().split(/\s+/);
  const found = all.filter((one) => words.every((word) => one.name.toLowerCase().includes(word)));
  const withShots = projects.filter((one) => one.shots > 0);
  const chosenOf = (which: Over): readonly Subject[] => {
    const { readAs } = view.get();
    if (which === "scene") return ofScene;
    return subjectsOf(which === "all" ? tray : picture ? [picture] : [], readAs);
  };

  function find(wanted: Reference | null, subjects: readonly Subject[]) {
    store.dispatch({ type: "try", look: null });
    setReference(wanted);
    if (wanted === null || subjects.length === 0) return;
    const said = subjects.flatMap(({ id, readAs }) => (readAs === undefined ? [] : [[id, readAs] as const]));
    ask.mutate({
      look: shownLook(store.get()),
      pictures: subjects.map((one) => one.id),
      reference: wanted.id,
      tolerance: view.get().tolerance,
      read_as: Object.fromEntries(said),
    });
  }
  function keep(one: Towards) {
    store.dispatch({ type: "try", look: null });
    const named = withIds(one.look);
    store.edit(`${one.title} of ${reference?.name ?? "a picture"}`, () => named);
    onSaid(`${one.title} of ${reference?.name ?? "a picture"} is in the look, as a group with a strength of its own.`);
    onClose();
  }

  return (
    <Root
      aria-label="Towards a picture"
      onKeyDown={(event) => {
        if (event.key === "Escape" && !bringing) onClose();
      }}
    >
      <header>
        <h2>Towards a picture</h2>
        <IconButton aria-label="Close without a change" onPress={onClose} autoFocus>
          <X aria-hidden />
        </IconButton>
      </header>
      <Choice
        titled
        label="What is brought there"
        value={over}
        options={[
          ["one", picture?.name ?? "No picture"],
          ["all", `All ${String(Math.min(tray.length, MOST))} of the tray`],
          ...(withShots.length > 0 ? [["scene", "A scene"] as const] : []),
        ]}
        onChange={(next) => {
          setOver(next);
          // Its pickers begin anew, so nothing of it is chosen yet.
          setOfScene([]);
          find(reference, next === "scene" ? [] : chosenOf(next));
        }}
      />
      {over === "scene" && (
        <SceneChoice
          projects={withShots}
          onChange={(subjects) => {
            setOfScene(subjects);
            find(reference, subjects);
          }}
        />
      )}
      <p>Whose colours are wanted:</p>
      {all.length > FEW && (
        <TextBox label="Search" hideLabel type="search" placeholder="A name" value={search} onChange={setSearch} />
      )}
      <Wanted aria-label="Whose colours are wanted">
        {found.map((one) => (
          <li key={one.id}>
            <button
              type="button"
              aria-pressed={one.id === reference?.id}
              title={one.name}
              onClick={() => find(one, chosenOf(over))}
            >
              <Disc
                $size={52}
                $on={one.id === reference?.id}
                style={{ backgroundImage: `url(${discOf(one.id, one.state)})` }}
              />
              <span>{one.name}</span>
            </button>
          </li>
        ))}
      </Wanted>
      <div>
        <Secondary onPress={() => setBringing(true)}>Bring one in…</Secondary>
      </div>
      {ask.isPending && <p role="status">Comparing colours…</p>}
      {ask.error && <Notice>{wordsFor(ask.error)}</Notice>}
      {reference && chosenOf(over).length > 0 && !ask.isPending && ask.data && (
        <Proposals
          found={ask.data}
          picture={picture}
          reference={reference}
          onTry={(one) => store.dispatch({ type: "try", look: one?.look ?? null })}
          onKeep={keep}
        />
      )}
      {bringing && (
        <BringInSheet
          isOpen
          onClose={() => setBringing(false)}
          onDone={(id) => find({ id, name: "the picture" }, chosenOf(over))}
        />
      )}
    </Root>
  );
}
