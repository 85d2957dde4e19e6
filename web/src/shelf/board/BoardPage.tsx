import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Dialog, DialogTrigger } from "react-aria-components";
import { createPortal } from "react-dom";
import { Link, useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { useDeleteBoard, useKeepBoard } from "../../api/boards";
import { wordsFor } from "../../api/client";
import { pictures as picturesQuery } from "../../api/pictures";
import { useMay } from "../../api/session";
import { useTopSlot } from "../../frame/TopBar";
import { GuestSheet } from "../../guests/GuestSheet";
import { Primary, Secondary, WordButton } from "../../kit/Button";
import { Menu } from "../../kit/Picker";
import { Notice } from "../../kit/Notice";
import { SurroundChoice } from "../../kit/SurroundChoice";
import { TextBox } from "../../kit/TextBox";
import { AddEntry, AddPicture } from "./Adding";
import { BoardGrid, nameOn } from "./BoardGrid";
import type { Place } from "./Cell";
import { PairView } from "./PairView";
import { MOST, useBoard, type Shown } from "./useBoard";
import { WHOLE, type View } from "./view";
import { oneLine } from "../../kit/oneLine";

const Page = styled.main`
  position: relative;
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr);
  min-height: 0;
  height: 100%;
  background: ${(p) => p.theme.surround.field};
  color: ${(p) => p.theme.surround.ink};
`;
const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 14px;
  min-height: 46px;
  padding: 6px 16px;
  h1 {
    font-size: ${(p) => p.theme.tokens.size.title};
    font-weight: 600;
    ${oneLine}
  }
  > span {
    white-space: nowrap;
  }
  output {
    margin-left: auto;
    white-space: nowrap;
  }
  button {
    color: ${(p) => p.theme.tokens.ink};
  }
  output button {
    color: inherit;
    text-decoration: underline;
  }
`;
const Naming = styled(Dialog)`
  width: 260px;
  padding: 8px;
  display: grid;
  gap: 8px;
  outline: none;
`;
const Empty = styled.p`
  padding: 16px;
`;

/** A name for it, in a small form. */
function NameForm({
  label,
  action,
  initial,
  onName,
}: {
  label: string;
  action: string;
  initial: string;
  onName: (name: string) => void;
}) {
  const [name, setName] = useState(initial);
  return (
    <form
      style={{ display: "grid", gap: 8 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) onName(name.trim());
      }}
    >
      <TextBox label={label} value={name} onChange={setName} maxLength={120} autoFocus />
      <Primary type="submit" isDisabled={name.trim() === ""}>
        {action}
      </Primary>
    </form>
  );
}

function Actions({ board, onChange }: { board: Shown; onChange: ReturnType<typeof useBoard>["change"] }) {
  const keep = useKeepBoard();
  const remove = useDeleteBoard();
  const navigate = useNavigate();
  const mayDesign = useMay("design");
  const [showing, setShowing] = useState(false);
  const { id } = board;
  const trouble = keep.error ?? remove.error;
  return (
    <>
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
      {board.mayChange && (
        <Secondary onPress={() => onChange({ hidesNames: !board.hidesNames })}>
          {board.hidesNames ? "Show the names" : "Hide the names"}
        </Secondary>
      )}
      {id !== null && mayDesign && <Secondary onPress={() => setShowing(true)}>Show to guests</Secondary>}
      {id !== null && showing && (
        <GuestSheet shows={{ board: id }} name={board.name} onClose={() => setShowing(false)} />
      )}
      {id === null && mayDesign && (
        <DialogTrigger>
          <Primary>Keep this board</Primary>
          <Menu placement="bottom end">
            <Naming aria-label="Keep this board">
              <NameForm
                label="Its name"
                action="Keep it for the team"
                initial=""
                onName={(name) =>
                  keep.mutate(
                    {
                      name,
                      entries: board.entries.map((one) => one.id),
                      pictures: board.pictures.map((one) => one.id),
                    },
                    { onSuccess: (made) => void navigate(`/shelf/board/${String(made.id)}`, { replace: true }) },
                  )
                }
              />
            </Naming>
          </Menu>
        </DialogTrigger>
      )}
      {id !== null && board.mayChange && (
        <DialogTrigger>
          <Secondary>Rename or delete</Secondary>
          <Menu placement="bottom end">
            <Naming aria-label="Rename or delete">
              {({ close }) => (
                <>
                  <NameForm
                    label="Its name"
                    action="Rename it"
                    initial={board.name}
                    onName={(name) => {
                      onChange({ name });
                      close();
                    }}
                  />
                  <Secondary
                    onPress={() =>
                      void remove.mutateAsync(id).then(
                        () => void navigate("/shelf", { state: { goneBoard: { id, name: board.name } } }),
                        () => undefined,
                      )
                    }
                  >
                    Delete this board
                  </Secondary>
                </>
              )}
            </Naming>
          </Menu>
        </DialogTrigger>
      )}
    </>
  );
}

/** A few entries beside each other on a few pictures: kept under a name for the team, or only in the address. */
export function BoardPage() {
  const { id } = useParams();
  const { shown: board, error, change } = useBoard(id === undefined ? null : Number(id));
  const { data: all = [] } = useQuery(picturesQuery);
  const [view, setView] = useState<View>(WHOLE);
  const [marked, setMarked] = useState<readonly Place[]>([]);
  const [open, setOpen] = useState(false);
  const slot = useTopSlot();
  const [first, second] = marked;

  if (!board)
    return (
      <Page>
        <Empty>{error ? <Notice>{wordsFor(error)}</Notice> : "Fetching the board…"}</Empty>
        <Empty>{Boolean(error) && <Link to="/shelf">To the Shelf</Link>}</Empty>
      </Page>
    );
  const more = all.filter((one) => !board.pictures.includes(one));
  const free = board.mayChange && !board.hidesNames;
  return (
    <Page>
      {slot && createPortal(<Actions board={board} onChange={change} />, slot)}
      <Head>
        <h1 title={board.name}>{board.name}</h1>
        <span>
          {board.entries.length} on {board.pictures.length} {board.pictures.length === 1 ? "picture" : "pictures"}
          {board.by && `, by ${board.by}`}
        </span>
        {free && board.entries.length < MOST && (
          <AddEntry
            there={board.entries.map((one) => one.id)}
            onAdd={(entry) => change({ entries: [...board.entries.map((one) => one.id), entry.id] })}
          />
        )}
        {free && board.pictures.length < MOST && more.length > 0 && (
          <AddPicture
            pictures={more}
            onAdd={(picture) => change({ pictures: [...board.pictures.map((one) => one.id), picture.id] })}
          />
        )}
        <output>
          {marked.length === 2 ? (
            <Secondary onPress={() => setOpen(true)}>Open the two marked</Secondary>
          ) : marked.length === 1 ? (
            "Move across any other to wipe it against 1"
          ) : view.zoom > 1 ? (
            <>
              {Math.round(view.zoom * 100)} %, all together.{" "}
              <WordButton onPress={() => setView(WHOLE)}>Whole pictures</WordButton>
            </>
          ) : (
            "Click two to compare them; the wheel goes nearer in all"
          )}
        </output>
        <SurroundChoice />
      </Head>
      {error ? <Notice>{wordsFor(error)}</Notice> : <i />}
      {board.entries.length === 0 || board.pictures.length === 0 ? (
        <Empty>
          {board.entries.length === 0
            ? "Nothing is on this board any more. Add an entry, or choose some on the Shelf and compare them."
            : "There is no picture on this board. Add one above."}
        </Empty>
      ) : (
        <BoardGrid
          board={board}
          view={view}
          onView={setView}
          marked={marked}
          onMarked={setMarked}
          onOpen={() => setOpen(marked.length === 2)}
          onEntries={(entries) => change({ entries: entries.map((one) => one.id) })}
          onPictures={(pictures) => change({ pictures: pictures.map((one) => one.id) })}
        />
      )}
      {open && first && second && (
        <PairView
          pair={[first, second]}
          names={[nameOn(board, first.entry), nameOn(board, second.entry)]}
          onClose={() => setOpen(false)}
        />
      )}
    </Page>
  );
}
