import { useQuery } from "@tanstack/react-query";
import { MessageSquare } from "lucide-react";
import { useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import type { Door, ShownPage, ShownThing } from "../api/types";
import { frameOf, shown as shownQuery, useJudgeShown } from "../api/visit";
import { Mark } from "../kit/Mark";
import { Notice } from "../kit/Notice";
import { SurroundChoice } from "../kit/SurroundChoice";
import { VerdictPills } from "../kit/Verdict";
import { oneLine } from "../kit/oneLine";
import { Near } from "./Near";
import { seenOf, type Seen } from "./seen";

const Page = styled.div`
  min-height: 100vh;
  background: ${(p) => p.theme.surround.field};
  color: ${(p) => p.theme.surround.ink};
`;
const Head = styled.header`
  position: sticky;
  top: 0;
  z-index: 2;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
  min-height: 52px;
  padding: 8px 22px;
  background: ${(p) => p.theme.tokens.glaze};
  color: ${(p) => p.theme.tokens.ink};
  border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  h1 {
    display: flex;
    align-items: center;
    gap: 9px;
    min-width: 0;
    font-size: ${(p) => p.theme.tokens.size.title};
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  > span {
    color: ${(p) => p.theme.tokens.soft};
  }
  > :last-child {
    margin-left: auto;
  }
`;
const Wall = styled.main`
  display: grid;
  gap: 26px;
  padding: 20px 22px 60px;
  h2 {
    font-size: 14px;
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  > p {
    max-width: 70ch;
    white-space: pre-line;
    overflow-wrap: anywhere;
  }
`;
const Pictures = styled.div<{ $least: number }>`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(${(p) => p.$least}px, 100%), 1fr));
  gap: 18px 14px;
`;
const Foot = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 12px;
  margin-top: 7px;
  b {
    font-weight: 600;
    min-width: 0;
    ${oneLine}
  }
`;
const Verdict = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
  button {
    color: inherit;
    border-color: currentColor;
  }
  button[aria-pressed="true"] {
    background: ${(p) => p.theme.surround.pill};
    border-color: ${(p) => p.theme.surround.pill};
    color: ${(p) => p.theme.surround.pillInk};
  }
  > span {
    display: inline-flex;
    align-items: center;
    gap: 4px;
    margin-left: 8px;
  }
`;
const Lead = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 16px;
  margin-bottom: 10px;
`;
const Opens = styled(Button)`
  display: block;
  width: 100%;
  padding: 0;
  border: 0;
  background: ${(p) => p.theme.surround.tray};
  cursor: zoom-in;
  img {
    display: block;
    width: 100%;
    height: auto;
  }
`;

interface RowProps {
  readonly code: string;
  readonly page: ShownPage;
  readonly thing: ShownThing;
  readonly onOpen: (seen: Seen) => void;
}

/** What a guest says of one thing at once: yes, maybe or no; and how much they have written. */
function Said({ code, page, thing }: Omit<RowProps, "onOpen">) {
  const judge = useJudgeShown(code);
  const remarks = page.remarks.filter((one) => one.kind === thing.kind && one.of === thing.id).length;
  return (
    <Verdict role="group" aria-label={`Verdict on ${thing.name}`}>
      <VerdictPills said={thing.choice} onSay={(choice) => judge.mutate({ thing, choice })} />
      {remarks > 0 && (
        <span aria-label={`${String(remarks)} of your remarks`}>
          <MessageSquare size={14} aria-hidden /> {remarks}
        </span>
      )}
      {judge.error && <Notice>{wordsFor(judge.error)}</Notice>}
    </Verdict>
  );
}

function Frame({ code, seen, onOpen }: { code: string; seen: Seen; onOpen: (seen: Seen) => void }) {
  const words = seen.picture ? `${seen.picture.name} through ${seen.thing.name}` : seen.thing.name;
  return (
    <Opens aria-label={`${words}, larger`} onPress={() => onOpen(seen)}>
      <img
        src={frameOf(code, seen.thing, seen.picture?.id ?? null, false)}
        alt={words}
        loading="lazy"
        style={{ aspectRatio: String(seen.sides) }}
      />
    </Opens>
  );
}

/** An entry on several pictures: in a row of its own. */
function EntryRow({ code, page, thing, onOpen }: RowProps) {
  return (
    <section aria-label={thing.name}>
      <Lead>
        <h2>{thing.name}</h2>
        <Said code={code} page={page} thing={thing} />
      </Lead>
      <Pictures $least={260}>
        {seenOf(page, thing).map((seen) => (
          <div key={seen.picture?.id}>
            <Frame code={code} seen={seen} onOpen={onOpen} />
            <Foot>{seen.picture?.name}</Foot>
          </div>
        ))}
      </Pictures>
    </section>
  );
}

/** Things that are one picture each: shots by their scenes, or entries on one picture. */
function Cards({
  code,
  page,
  things,
  group,
  onOpen,
}: Omit<RowProps, "thing"> & { things: readonly ShownThing[]; group: string }) {
  return (
    <section aria-label={group || page.title}>
      {group && (
        <Lead>
          <h2>{group}</h2>
        </Lead>
      )}
      <Pictures $least={300}>
        {things.flatMap((thing) =>
          seenOf(page, thing).map((seen) => (
            <div key={thing.id}>
              <Frame code={code} seen={seen} onOpen={onOpen} />
              <Foot>
                <b title={thing.name}>{thing.name}</b>
                <Said code={code} page={page} thing={thing} />
              </Foot>
            </div>
          )),
        )}
      </Pictures>
    </section>
  );
}

/** All that a link shows, in its order; each picture opens larger, where one writes on it. */
export function ShownWall({ code, door, name }: { code: string; door: Door; name: string }) {
  const { data: page, error } = useQuery(shownQuery(code));
  const [open, setOpen] = useState<Seen | null>(null);
  if (!page) return <Page>{error && <Notice>{wordsFor(error)}</Notice>}</Page>;
  const order = page.things.flatMap((thing) => seenOf(page, thing));
  const at = order.findIndex((one) => one.thing.id === open?.thing.id && one.picture?.id === open.picture?.id);
  const now = order[at];
  const groups = [...new Set(page.things.map((one) => one.group))];
  const inRows = page.pictures.length > 1;
  return (
    <Page>
      <Head>
        <h1>
          <Mark size={22} />
          {page.title}
        </h1>
        <span>{[door.studio, `open until ${door.until}`, `you are ${name}`].filter(Boolean).join(", ")}</span>
        <SurroundChoice />
      </Head>
      <Wall>
        {page.words && <p>{page.words}</p>}
        {page.things.length === 0 && <p>There is nothing to see here any more.</p>}
        {inRows
          ? page.things.map((thing) => (
              <EntryRow key={thing.id} code={code} page={page} thing={thing} onOpen={setOpen} />
            ))
          : groups.map((group) => (
              <Cards
                key={group}
                code={code}
                page={page}
                group={group}
                things={page.things.filter((one) => one.group === group)}
                onOpen={setOpen}
              />
            ))}
      </Wall>
      {now && (
        <Near
          key={`${now.thing.kind}-${String(now.thing.id)}-${String(now.picture?.id)}`}
          code={code}
          page={page}
          seen={now}
          place={`${String(at + 1)} of ${String(order.length)}`}
          onStep={(by) => setOpen(order[(at + by + order.length) % order.length] ?? null)}
          onClose={() => setOpen(null)}
        />
      )}
    </Page>
  );
}
