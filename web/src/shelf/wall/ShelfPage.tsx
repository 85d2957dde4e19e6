import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Grid2x2, Grid3x3, List, Rows3, Square } from "lucide-react";
import { useCallback, useDeferredValue, useState, type DragEvent, type ReactNode } from "react";
import { createPortal } from "react-dom";
import { useLocation, useNavigate, useSearchParams } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { useMakeLook } from "../../api/looks";
import { chosenEntries } from "../../api/boards";
import {
  counts as countsQuery,
  entries as entriesQuery,
  useRestoreEntry,
  wallAlike,
  type Order,
} from "../../api/shelf";
import { useLive } from "../../api/order";
import { useMay } from "../../api/session";
import type { Entry, Kind } from "../../api/types";
import { WordButton } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import type { DroppedFile } from "../../kit/FileDrop";
import { Disc } from "../../kit/Disc";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { SurroundChoice } from "../../kit/SurroundChoice";
import { TextBox } from "../../kit/TextBox";
import { usePictureChoice } from "../../media/usePictureChoice";
import { useTopSlot } from "../../frame/TopBar";
import { isNarrowed, orders, readAddress, writeAddress, type Layout, type Seen } from "./address";
import { ListHead, lineHeads } from "./EntryRow";
import { Filters } from "./Filters";
import { ManyBar } from "./ManyBar";
import { TopActions } from "./TopActions";
import { Wall } from "./Wall";
import { dropped } from "../intake/dropped";
import { ChooseFrame, FrameLine, isFrame, useOwnFrame } from "./OwnFrame";
import { IntakeSheet } from "../intake/IntakeSheet";
import { PairSheet } from "../making/PairSheet";
import { RoundTripSheet } from "../making/RoundTripSheet";

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
const Layouts = styled(Choice<Layout>)`
  button {
    padding: 4px 8px;
    color: ${(p) => p.theme.surround.ink};
  }
  svg {
    display: block;
    width: 17px;
    height: 17px;
  }
`;
const Tools = styled.div`
  display: flex;
  align-items: center;
  gap: 12px;
  margin-bottom: 14px;
  & > :first-child {
    width: 300px;
  }
  input {
    border-radius: 17px;
    padding: 5px 16px;
    min-height: 34px;
    color: ${(p) => p.theme.tokens.ink};
  }
`;
const Gap = styled.span`
  flex: 1;
`;
const Said = styled.div`
  max-width: 620px;
  margin-bottom: 18px;
`;
const Veil = styled.div`
  position: fixed;
  inset: ${(p) => p.theme.tokens.top} 0 0 0;
  z-index: 10;
  display: grid;
  place-items: center;
  pointer-events: none;
  font-size: ${(p) => p.theme.tokens.size.title};
  font-weight: 600;
  background: color-mix(in srgb, ${(p) => p.theme.tokens.glaze} 86%, transparent);
  border: 2px dashed ${(p) => p.theme.tokens.accent};
  color: ${(p) => p.theme.tokens.ink};
`;

const layouts: readonly (readonly [Layout, ReactNode])[] = [
  ["small", <Grid3x3 key="small" aria-label="Small cards" />],
  ["cards", <Grid2x2 key="cards" aria-label="Cards" />],
  ["large", <Square key="large" aria-label="Large cards" />],
  ["rows", <Rows3 key="rows" aria-label="Rows on three pictures" />],
  ["list", <List key="list" aria-label="List" />],
];

/** The catalogue: every look, LUT and preset on the picture of choice. */
export function ShelfPage() {
  const [address, setAddress] = useSearchParams();
  const seen = readAddress(address);
  const [search, setSearch] = useState(seen.wanted.search);
  const [marked, setMarked] = useState<ReadonlySet<number>>(new Set());
  const [open, setOpen] = useState<"intake" | "trip" | "pair" | null>(null);
  const [sent, setSent] = useState<readonly DroppedFile[]>([]);
  const [over, setOver] = useState(false);
  const [kept, setKept] = useState(0);
  const asked = useDeferredValue(search);
  const wanted = { ...seen.wanted, search: asked };
  const { pictures, chosen, choose } = usePictureChoice(seen.picture);
  const show = (next: Partial<Seen>) =>
    setAddress(writeAddress({ ...seen, wanted, ...next }), {
      replace: "wanted" in next && next.wanted?.search !== seen.wanted.search,
    });
  const frame = useOwnFrame((id) => {
    choose(id);
    show({ picture: id });
  });
  useLive();
  const { data, error, isPending, hasNextPage, isFetchingNextPage, fetchNextPage } = useInfiniteQuery({
    ...entriesQuery(wanted),
    placeholderData: keepPreviousData,
  });
  const { data: counts } = useQuery({ ...countsQuery(wanted), placeholderData: keepPreviousData });
  const mayDesign = useMay("design");
  const make = useMakeLook();
  const navigate = useNavigate();
  const slot = useTopSlot();
  const gone = (useLocation().state as { gone?: { kind: Kind; id: number; name?: string } } | null)?.gone;
  const restore = useRestoreEntry();
  const pack = Number(address.get("pack")) || null;
  const { data: alike, error: noLikeness } = useQuery(wallAlike(seen.like));
  const { data: likeWhat } = useQuery(chosenEntries(seen.like === null ? [] : [seen.like]));
  const shown =
    seen.like === null ? (data?.pages.flatMap((page) => page.entries) ?? []) : (alike ?? []).map((one) => one.entry);
  const near = data?.pages[0]?.near ?? false;
  const more = useCallback(() => {
    if (seen.like === null && hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [seen.like, hasNextPage, isFetchingNextPage, fetchNextPage]);
  const narrowed = isNarrowed(wanted);
  const three = chosen ? [chosen, ...pictures.filter((one) => one.id !== chosen.id)].slice(0, 3) : [];
  const nothing = search
    ? `Nothing here is called “${search}”${narrowed ? " under what is chosen at the left" : ""}.`
    : narrowed
      ? "Nothing under what is chosen at the left."
      : "Nothing here yet. Bake a look on the Bench, or bring in LUTs.";
  const trouble = error ?? noLikeness ?? make.error ?? restore.error;

  function closeIntake() {
    setOpen(null);
    if (pack !== null) setAddress({});
  }

  function compare(entries: readonly Entry[]) {
    const given = new URLSearchParams(entries.map((entry): [string, string] => ["entry", String(entry.id)]));
    const others = pictures.filter((one) => one.id !== chosen?.id && !one.passing);
    const test = others.some((one) => one.test) ? others.filter((one) => one.test) : others;
    for (const one of [...(chosen ? [chosen] : []), ...test].slice(0, 4)) given.append("picture", String(one.id));
    void navigate(`/shelf/board?${given.toString()}`);
  }

  async function makeNew() {
    const made = await make.mutateAsync({ name: "Untitled look", steps: [{ kind: "curves" }] }).catch(() => null);
    if (made) await navigate(`/bench/${made.id}`);
  }

  function onDrop(event: DragEvent) {
    if (open !== null) return;
    event.preventDefault();
    setOver(false);
    void dropped(event.dataTransfer).then((files) => {
      const [first] = files;
      if (files.length === 1 && first && isFrame(first.file.name)) {
        frame.send(first.file);
        return;
      }
      if (!mayDesign) return;
      setSent(files);
      setOpen("intake");
    });
  }

  return (
    <Columns
      onDragOver={(event: DragEvent) => {
        if (open === null && event.dataTransfer.types.includes("Files")) {
          event.preventDefault();
          setOver(true);
        }
      }}
      onDragLeave={(event: DragEvent) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={onDrop}
    >
      {slot &&
        mayDesign &&
        createPortal(
          <TopActions
            onOpen={setOpen}
            onBringIn={() => {
              setSent([]);
              setOpen("intake");
            }}
            onNew={() => void makeNew()}
          />,
          slot,
        )}
      <Filters
        counts={counts}
        wanted={wanted}
        onChange={(next) => show({ wanted: next, like: null })}
        address={writeAddress({ ...seen, picture: null }).toString()}
      />
      <Room>
        <Head>
          <Tools>
            <TextBox
              label="Find"
              hideLabel
              type="search"
              value={search}
              onChange={(text) => {
                setSearch(text);
                show({ wanted: { ...wanted, search: text }, like: null });
              }}
              placeholder="A name, a tag, or what it does: warm faded"
            />
            <Picker
              label="Order"
              hideLabel
              value={wanted.order}
              options={orders.map(([id, name]) => ({ id, name }))}
              onChange={(order) => show({ wanted: { ...wanted, order: order as Order } })}
            />
            <Layouts label="Layout" value={seen.layout} options={layouts} onChange={(layout) => show({ layout })} />
            <Gap />
            {chosen && (
              <Disc
                $size={34}
                style={{ backgroundImage: `url(/api/pictures/${chosen.id}/disc.jpg?${chosen.state})` }}
              />
            )}
            {chosen && (
              <Picker
                label="Previewed on"
                hideLabel
                value={String(chosen.id)}
                options={pictures.map((one) => ({ id: String(one.id), name: one.name }))}
                onChange={(id) => {
                  choose(Number(id));
                  show({ picture: Number(id) });
                }}
              />
            )}
            <ChooseFrame frame={frame} />
            <SurroundChoice />
          </Tools>
          <FrameLine
            picture={chosen}
            frame={frame}
            onLut={(file) => {
              setSent([{ file, path: file.name }]);
              setOpen("intake");
            }}
          />
          {gone && (
            <Said>
              <Notice tone="word">
                {gone.name ?? "It"} was deleted. It can be brought back for 30 days.{" "}
                <WordButton
                  onPress={() => restore.mutate(gone, { onSuccess: () => void navigate("/shelf", { replace: true }) })}
                >
                  Bring it back
                </WordButton>
              </Notice>
            </Said>
          )}
          {kept > 0 && (
            <Said>
              <Notice tone="word">{kept} LUTs are on the Shelf.</Notice>
            </Said>
          )}
          {trouble && <Notice>{wordsFor(trouble)}</Notice>}
          {!isPending && !error && shown.length === 0 && <p>{nothing}</p>}
          {seen.like !== null && (
            <Said>
              <Notice tone="word">
                What does most nearly what {likeWhat?.[0]?.name ?? "it"} does, the nearest first.{" "}
                <WordButton onPress={() => show({ like: null })}>Show everything</WordButton>
              </Notice>
            </Said>
          )}
          {near && shown.length > 0 && (
            <Said>
              <Notice tone="word">Nothing has “{asked}” as it is written. These have words close to it.</Notice>
            </Said>
          )}
        </Head>
        {shown.length > 0 ? (
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
              entries={shown}
              layout={seen.layout}
              pictures={three}
              chosen={marked}
              onChosen={setMarked}
              isLoading={isFetchingNextPage}
              onMore={more}
              onLike={(entry) => show({ like: entry.id })}
            />
          </Hung>
        ) : (
          <i />
        )}
        <ManyBar
          chosen={shown.filter((entry) => marked.has(entry.id))}
          onClear={() => setMarked(new Set())}
          onCompare={compare}
          mayDesign={mayDesign}
        />
      </Room>
      {over && (
        <Veil>
          {mayDesign
            ? "Drop a frame to see all of this on it; or LUT files, folders, zip packs"
            : "Drop a frame to see all of this on it"}
        </Veil>
      )}
      {(open === "intake" || pack !== null) && (
        <IntakeSheet
          isOpen
          sent={sent}
          pack={pack}
          onClose={closeIntake}
          onKept={(made) => {
            const [one] = made;
            if (made.length === 1 && one) void navigate(`/shelf/lut/${one}`);
            else setKept(made.length);
          }}
        />
      )}
      {open === "trip" && (
        <RoundTripSheet isOpen onClose={() => setOpen(null)} onKept={(lut) => void navigate(`/shelf/lut/${lut.id}`)} />
      )}
      {open === "pair" && (
        <PairSheet isOpen onClose={() => setOpen(null)} onKept={(lut) => void navigate(`/shelf/lut/${lut.id}`)} />
      )}
    </Columns>
  );
}
