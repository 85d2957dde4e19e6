import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import { pictures as picturesQuery } from "../../api/pictures";
import { Painter } from "../../look/frames/painter";
import { Reader } from "../../look/frames/reader";
import { usePainted, type Frames } from "../../look/frames/useFrames";
import { BenchStore, opened } from "../../look/store";
import { BenchContext, type Bench } from "../../look/useBench";
import { Picker } from "../../look/view/picking";
import { fromSearch, ViewStore } from "../../look/view/view";
import { Pane } from "../stage/Pane";
import { openChannel, type Message, type Seen } from "./channel";

const Field = styled.main<{ $count: number }>`
  position: relative;
  display: grid;
  height: 100vh;
  grid-template-columns: ${(p) => (p.$count > 1 ? "1fr 1fr" : "1fr")};
  grid-template-rows: ${(p) => (p.$count > 2 ? "1fr 1fr" : "1fr")};
  background: ${(p) => p.theme.surround.field};
  color: ${(p) => p.theme.surround.ink};
  > p {
    place-self: center;
  }
`;
const Said = styled.p`
  position: absolute;
  bottom: 14px;
  left: 50%;
  transform: translateX(-50%);
`;
const nothing = () => undefined;
const settled = () => Promise.resolve();

/** What never saves and never asks who else is there: it has no other look than the one it is told of. */
function benchFor(seen: Seen): Bench {
  return {
    store: new BenchStore(opened(seen.look, [], [], seen.selected)),
    view: new ViewStore({ ...fromSearch(new URLSearchParams()), ...seen.view }),
    picker: new Picker(),
    id: seen.id,
    mayEdit: false,
    flush: settled,
    keepMine: settled,
    takeTheirs: settled,
    follow: settled,
    refresh: settled,
    revision: () => 0,
  };
}

/** The pictures of one look, for as long as the first window is at it. */
function Following({ seen, onPainter }: { seen: Seen; onPainter: (painter: Painter | null) => void }) {
  const [bench] = useState(() => benchFor(seen));
  const [frames] = useState<Frames>(() => ({
    painter: new Painter(bench.id, bench.store, bench.view),
    reader: new Reader(bench.store, bench.view),
  }));
  const { painter } = frames;
  const { data: all, refetch, isFetching } = useQuery(picturesQuery);
  const ids = seen.pictures.join();
  const shown = useMemo(
    () => (ids === "" ? [] : ids.split(",").flatMap((id) => all?.find((one) => one.id === Number(id)) ?? [])),
    [ids, all],
  );
  // One that was brought in since the list was fetched.
  const isMissing = all !== undefined && shown.length < seen.pictures.length && !isFetching;
  const [sought, setSought] = useState("");
  if (isMissing && sought !== ids) setSought(ids);
  useEffect(() => {
    if (sought !== "") void refetch();
  }, [sought, refetch]);

  const stamp = useRef("");
  useEffect(() => {
    const moving = seen.moving ? "followed" : null;
    const { store, view } = bench;
    if (stamp.current !== seen.stamp)
      store.dispatch({ type: "open", state: { ...opened(seen.look, [], [], seen.selected), gesture: moving } });
    else if (store.get().selected !== seen.selected) store.dispatch({ type: "select", id: seen.selected });
    if (stamp.current === seen.stamp && moving === null) store.dispatch({ type: "endGesture" });
    stamp.current = seen.stamp;
    view.set(seen.view);
  }, [bench, seen]);
  useEffect(() => {
    painter.open();
    onPainter(painter);
    return () => {
      onPainter(null);
      painter.close();
    };
  }, [painter, onPainter]);
  useEffect(() => painter.see(shown), [painter, shown]);
  const problem = usePainted(painter, (painted) => painted.problem);
  return (
    <BenchContext.Provider value={bench}>
      <Field $count={shown.length} aria-label="Picture">
        {shown.map((picture, index) => (
          <Pane
            key={picture.id}
            picture={picture}
            frames={frames}
            isChosen={index === 0}
            named={shown.length > 1}
            names={seen.names}
            onPoint={nothing}
            onWidth={index === 0 ? painter.onWidth : undefined}
          />
        ))}
        {problem && <Said role="alert">{problem}</Said>}
      </Field>
    </BenchContext.Provider>
  );
}

/** The pictures of the Bench and nothing else, for another screen: what the first window shows, as large as this one is. */
export function SecondWindow() {
  const [seen, setSeen] = useState<Seen | null>(null);
  const painter = useRef<Painter | null>(null);
  const [onPainter] = useState(() => (next: Painter | null) => {
    painter.current = next;
  });
  useEffect(() => {
    const channel = openChannel();
    channel.onmessage = ({ data }: MessageEvent<Message>) => {
      if (data.kind === "seen") setSeen(data);
      else if (data.kind === "here") channel.postMessage({ kind: "asked" } satisfies Message);
      else if (data.kind === "played") painter.current?.showFrame(data.picture, data.bitmap);
    };
    channel.postMessage({ kind: "asked" } satisfies Message);
    document.title = "Saucer: second window";
    return () => channel.close();
  }, []);
  if (!seen)
    return (
      <Field $count={1}>
        <p role="status">What the Bench shows in another window of this browser is seen here.</p>
      </Field>
    );
  return <Following key={seen.id} seen={seen} onPainter={onPainter} />;
}
