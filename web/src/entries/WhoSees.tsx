import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { people as peopleQuery, projects as projectsQuery } from "../api/projects";
import { sharing as sharingQuery, useShare } from "../api/shelf";
import type { Kind, SeenBy, Sharing } from "../api/types";
import { Primary, WordButton } from "../kit/Button";
import { Choice } from "../kit/Choice";
import { Flyout } from "../kit/Flyout";
import { Notice } from "../kit/Notice";
import { oneLine } from "../kit/oneLine";
import { Picker } from "../kit/Picker";
import { withoutMarks } from "../kit/PlainList";

const Word = styled(WordButton)`
  font-size: ${(p) => p.theme.tokens.size.small};
`;
const Quiet = styled.span`
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
`;
const With = styled.ul`
  ${withoutMarks}
  display: grid;
  gap: 2px;
  max-height: 180px;
  overflow-y: auto;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 10px;
    align-items: center;
    min-height: 26px;
  }
  span {
    ${oneLine}
  }
`;
const explained: Record<SeenBy, string> = {
  owner: "Nobody else finds it, on the Shelf, by a search or at its address, until you propose it.",
  chosen: "Whom you choose here, and the people of a project. A viewer who is chosen sees it too.",
  studio: "Everybody who designs. Viewers see it once it is proposed.",
};

/** As few words as tell who sees it. */
export function wordsOfSharing(sharing: Sharing): string {
  if (sharing.proposed) return "Everybody sees it";
  if (sharing.seen_by === "owner") return "Only its owner sees it";
  if (sharing.seen_by === "studio") return "All who design see it";
  const names = [...sharing.people.map((one) => one.shown), ...sharing.projects.map((one) => one.name)];
  return names.length === 0
    ? "Shared"
    : names.length === 1
      ? `Shared with ${names[0] ?? ""}`
      : `Shared with ${names.length}`;
}

/** Who sees a draft, in words; for whoever may say so, where they do. */
export function WhoSees({ kind, id, mayChange }: { kind: Kind; id: number; mayChange: boolean }) {
  const { data: sharing } = useQuery(sharingQuery(kind, id));
  if (!sharing) return null;
  const words = wordsOfSharing(sharing);
  if (!mayChange || sharing.proposed) return <Quiet>{words}</Quiet>;
  return (
    <Flyout label="Who sees it" button={<Word aria-label={`Who sees it: ${words}`}>{words}</Word>}>
      {(close) => <Chosen kind={kind} id={id} sharing={sharing} onDone={close} />}
    </Flyout>
  );
}

function Chosen({ kind, id, sharing, onDone }: { kind: Kind; id: number; sharing: Sharing; onDone: () => void }) {
  const share = useShare();
  const [seenBy, setSeenBy] = useState(sharing.seen_by);
  const [people, setPeople] = useState(sharing.people);
  const [projects, setProjects] = useState(sharing.projects);
  const { data: everybody = [] } = useQuery(peopleQuery);
  const { data: all = [] } = useQuery(projectsQuery);
  const others = everybody.filter((one) => !people.some((chosen) => chosen.name === one.username));
  const places = all.filter((one) => !projects.some((chosen) => chosen.id === one.id));
  const keep = (wanted: SeenBy) => {
    share.mutate(
      { kind, id, seen_by: wanted, people: people.map((one) => one.name), projects: projects.map((one) => one.id) },
      { onSuccess: onDone },
    );
  };
  return (
    <>
      <Choice
        label="Who sees it, until it is proposed"
        titled
        value={seenBy}
        options={[
          ["owner", "Only me"],
          ["chosen", "Some"],
          ["studio", "All who design"],
        ]}
        onChange={(wanted) => {
          setSeenBy(wanted);
          if (wanted !== "chosen") keep(wanted);
        }}
      />
      <p>{explained[seenBy]}</p>
      {seenBy === "chosen" && (
        <>
          {people.length + projects.length > 0 && (
            <With aria-label="Shared with">
              {people.map((one) => (
                <li key={one.name}>
                  <span title={one.shown}>{one.shown}</span>
                  <WordButton
                    aria-label={`Not with ${one.shown}`}
                    onPress={() => setPeople(people.filter((other) => other !== one))}
                  >
                    Take out
                  </WordButton>
                </li>
              ))}
              {projects.map((one) => (
                <li key={one.id}>
                  <span title={one.name}>The people of {one.name}</span>
                  <WordButton
                    aria-label={`Not with the people of ${one.name}`}
                    onPress={() => setProjects(projects.filter((other) => other !== one))}
                  >
                    Take out
                  </WordButton>
                </li>
              ))}
            </With>
          )}
          <Picker
            label="Somebody"
            value=""
            options={[
              { id: "", name: "Choose…" },
              ...others.map((one) => ({ id: one.username, name: one.name, note: one.role })),
            ]}
            onChange={(name) => {
              const found = others.find((one) => one.username === name);
              if (found) setPeople([...people, { name, shown: found.name }]);
            }}
          />
          {places.length > 0 && (
            <Picker
              label="The people of a project"
              value=""
              options={[{ id: "", name: "Choose…" }, ...places.map((one) => ({ id: String(one.id), name: one.name }))]}
              onChange={(chosen) => {
                const found = places.find((one) => String(one.id) === chosen);
                if (found) setProjects([...projects, { id: found.id, name: found.name }]);
              }}
            />
          )}
          <p>
            <Primary
              isDisabled={people.length + projects.length === 0}
              isPending={share.isPending}
              onPress={() => keep("chosen")}
            >
              Share it
            </Primary>
          </p>
        </>
      )}
      {share.error && <Notice>{wordsFor(share.error)}</Notice>}
    </>
  );
}
