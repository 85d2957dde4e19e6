import { useState } from "react";
import { createPortal } from "react-dom";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { useMakeLook } from "../../api/looks";
import { useMay } from "../../api/session";
import type { Entry } from "../../api/types";
import { useTopSlot } from "../../frame/TopBar";
import type { DroppedFile } from "../../kit/FileDrop";
import { takeHanded } from "../../media/handed";
import { IntakeSheet } from "../intake/IntakeSheet";
import { PairSheet } from "../making/PairSheet";
import { RoundTripSheet } from "../making/RoundTripSheet";
import { writeAddress } from "./address";
import { ListHead, lineHeads } from "./EntryRow";
import { Filters } from "./Filters";
import { ManyBar } from "./ManyBar";
import { FrameLine, useOwnFrame } from "./OwnFrame";
import { TopActions } from "./TopActions";
import { useDrop } from "./useDrop";
import { useShelf } from "./useShelf";
import { Wall } from "./Wall";
import { WallTools } from "./WallTools";
import { WallWords } from "./WallWords";

const Columns = styled.main`
  display: grid;
  grid-template-columns: 212px minmax(0, 1fr);
  min-height: 0;
  height: 100%;
`;
const Room = styled.section`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  min-width: 0;
  min-height: 0;
  background: ${(p) => p.theme.surround.field};
  color: ${(p) => p.theme.surround.ink};
`;
const Head = styled.header`
  padding: 14px 22px 0;
`;
/** What virtual lists measure is their inside, so the room at their sides is outside. */
const Hung = styled.div`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
  min-width: 0;
  padding: 0 10px 0 22px;
`;

/** The catalogue: every look, LUT and preset on the picture of choice. */
export function ShelfPage() {
  const shelf = useShelf();
  const { seen, pictures, chosen, entries } = shelf;
  const [marked, setMarked] = useState<ReadonlySet<number>>(new Set());
  // What was dropped elsewhere and is dealt with here.
  const [sent, setSent] = useState<readonly DroppedFile[]>(takeHanded);
  const [open, setOpen] = useState<"intake" | "trip" | "pair" | null>(sent.length > 0 ? "intake" : null);
  const [kept, setKept] = useState(0);
  const frame = useOwnFrame(shelf.lookOn);
  const mayDesign = useMay("design");
  const make = useMakeLook();
  const navigate = useNavigate();
  const slot = useTopSlot();
  const three = chosen ? [chosen, ...pictures.filter((one) => one.id !== chosen.id)].slice(0, 3) : [];

  function bringIn(files: readonly DroppedFile[]) {
    setSent(files);
    setOpen("intake");
  }
  const drop = useDrop({ isBusy: open !== null, mayDesign, onFrame: frame.send, onLuts: bringIn });

  function compare(some: readonly Entry[]) {
    const given = new URLSearchParams(some.map((entry): [string, string] => ["entry", String(entry.id)]));
    const others = pictures.filter((one) => one.id !== chosen?.id && !one.passing);
    const test = others.some((one) => one.test) ? others.filter((one) => one.test) : others;
    for (const one of [...(chosen ? [chosen] : []), ...test].slice(0, 4)) given.append("picture", String(one.id));
    void navigate(`/shelf/board?${given.toString()}`);
  }

  async function makeNew() {
    const made = await make.mutateAsync({ name: "Untitled look", steps: [{ kind: "curves" }] }).catch(() => null);
    if (made) await navigate(`/bench/${made.id}`);
  }

  const close = () => setOpen(null);
  const toLut = (id: number) => void navigate(`/shelf/lut/${id}`);
  return (
    <Columns {...drop.handlers}>
      {slot &&
        mayDesign &&
        createPortal(<TopActions onOpen={setOpen} onBringIn={() => bringIn([])} onNew={() => void makeNew()} />, slot)}
      <Filters
        counts={shelf.counts}
        wanted={shelf.wanted}
        onChange={(next) => shelf.show({ wanted: next, like: null })}
        address={writeAddress({ ...seen, picture: null }).toString()}
      />
      <Room>
        <Head>
          <WallTools shelf={shelf} frame={frame} />
          <FrameLine picture={chosen} frame={frame} onLut={(file) => bringIn([{ file, path: file.name }])} />
          <WallWords
            shelf={shelf}
            kept={kept}
            trouble={make.error}
            onNew={mayDesign ? () => void makeNew() : null}
            onBringIn={() => bringIn([])}
          />
        </Head>
        {entries.length > 0 ? (
          <Hung>
            {seen.layout === "list" ? (
              <ListHead aria-hidden>
                {lineHeads.map((head, index) => (
                  <span key={index}>{head}</span>
                ))}
              </ListHead>
            ) : (
              <i />
            )}
            <Wall
              entries={entries}
              layout={seen.layout}
              pictures={three}
              chosen={marked}
              onChosen={setMarked}
              isLoading={shelf.isFetchingMore}
              onMore={shelf.more}
              onLike={(entry) => shelf.show({ like: entry.id })}
            />
          </Hung>
        ) : (
          <i />
        )}
        <ManyBar
          chosen={entries.filter((entry) => marked.has(entry.id))}
          onClear={() => setMarked(new Set())}
          onCompare={compare}
          mayDesign={mayDesign}
        />
      </Room>
      {drop.veil}
      {(open === "intake" || shelf.pack !== null) && (
        <IntakeSheet
          isOpen
          sent={sent}
          pack={shelf.pack}
          onClose={() => {
            close();
            if (shelf.pack !== null) shelf.clear();
          }}
          onKept={(made) => {
            const [one] = made;
            if (made.length === 1 && one) toLut(one);
            else setKept(made.length);
          }}
        />
      )}
      {open === "trip" && <RoundTripSheet isOpen onClose={close} onKept={(lut) => toLut(lut.id)} />}
      {open === "pair" && <PairSheet isOpen onClose={close} onKept={(lut) => toLut(lut.id)} />}
    </Columns>
  );
}
