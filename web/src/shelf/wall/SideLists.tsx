import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState, type ReactNode } from "react";
import { Dialog, DialogTrigger } from "react-aria-components";
import { Link } from "react-router";
import styled from "styled-components";
import { boards as boardsQuery } from "../../api/boards";
import { wordsFor } from "../../api/client";
import { useDeleteView, useKeepView, views as viewsQuery } from "../../api/order";
import { useMay } from "../../api/session";
import { IconButton, Primary, WordButton } from "../../kit/Button";
import { Check } from "../../kit/Check";
import { Notice } from "../../kit/Notice";
import { Menu } from "../../kit/Picker";
import { TextBox } from "../../kit/TextBox";
import { CategoriesSheet } from "../order/CategoriesSheet";
import { TagsSheet } from "../order/TagsSheet";
import { oneLine } from "../../kit/oneLine";

const Block = styled.section`
  padding-bottom: 6px;
  h2 {
    padding: 5px 8px;
    font-size: ${(p) => p.theme.tokens.size.small};
    font-weight: 500;
    color: ${(p) => p.theme.tokens.soft};
  }
  a {
    flex: 1;
    min-width: 0;
    padding: 3px 8px;
    border-radius: 5px;
    color: inherit;
    ${oneLine}
  }
  a:hover {
    background: ${(p) => p.theme.tokens.hush};
  }
  a[aria-current="true"] {
    font-weight: 600;
    color: ${(p) => p.theme.tokens.accent};
    background: ${(p) => p.theme.tokens.accentWash};
  }
  li {
    display: flex;
    align-items: center;
  }
  li button {
    opacity: 0;
    width: 22px;
    height: 22px;
  }
  li:hover button,
  li button:focus-visible {
    opacity: 1;
  }
  > button,
  > p {
    margin: 0 8px;
  }
`;
const Form = styled(Dialog)`
  width: 260px;
  padding: 8px;
  outline: none;
  form {
    display: grid;
    gap: 10px;
  }
`;
const Foot = styled.footer`
  margin-top: 10px;
  padding-top: 10px;
  border-top: 1px solid ${(p) => p.theme.tokens.line};
  display: grid;
  justify-items: start;
  gap: 5px;
  a,
  button {
    margin: 0 8px;
    color: inherit;
    font-weight: 400;
  }
`;

function KeepView({ address, onDone }: { address: string; onDone: () => void }) {
  const keep = useKeepView();
  const mayShare = useMay("design");
  const [name, setName] = useState("");
  const [shared, setShared] = useState(false);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) keep.mutate({ name, address, shared }, { onSuccess: onDone });
      }}
    >
      <TextBox label="Name of the view" value={name} onChange={setName} maxLength={80} autoFocus />
      {mayShare && (
        <Check isOn={shared} onChange={setShared}>
          For the whole team
        </Check>
      )}
      <Primary type="submit" isDisabled={name.trim() === ""} isPending={keep.isPending}>
        Keep it
      </Primary>
      {keep.error && <Notice>{wordsFor(keep.error)}</Notice>}
    </form>
  );
}

/** States of the wall by name, one's own and the team's. address: of the wall as it is; empty for the plain one */
export function Views({ address }: { address: string }) {
  const { data: views = [] } = useQuery(viewsQuery);
  const remove = useDeleteView();
  if (views.length === 0 && address === "") return null;
  return (
    <Block aria-label="Views">
      <h2>Views</h2>
      <ul>
        {views.map((view) => (
          <li key={view.id}>
            <Link
              to={`/shelf?${view.address}`}
              title={view.shared ? `${view.name}, of the team, kept by ${view.by}` : view.name}
              aria-current={view.address === address ? "true" : undefined}
            >
              {view.name}
            </Link>
            {view.may_change && (
              <IconButton aria-label={`Forget the view ${view.name}`} onPress={() => remove.mutate(view.id)}>
                <X aria-hidden />
              </IconButton>
            )}
          </li>
        ))}
      </ul>
      {address !== "" && !views.some((view) => view.address === address) && (
        <DialogTrigger>
          <WordButton>Keep this view</WordButton>
          <Menu placement="bottom start">
            <Form aria-label="Keep this view">{({ close }) => <KeepView address={address} onDone={close} />}</Form>
          </Menu>
        </DialogTrigger>
      )}
      {remove.error && <Notice>{wordsFor(remove.error)}</Notice>}
    </Block>
  );
}

/** Boards that are kept, the one changed last first. */
export function Boards() {
  const { data: boards = [] } = useQuery(boardsQuery);
  if (boards.length === 0) return null;
  return (
    <Block aria-label="Boards">
      <h2>Boards</h2>
      <ul>
        {boards.slice(0, 12).map((one) => (
          <li key={one.id}>
            <Link to={`/shelf/board/${String(one.id)}`} title={`${one.name}, by ${one.by}`}>
              {one.name}
            </Link>
          </li>
        ))}
      </ul>
    </Block>
  );
}

/** Where order is kept, for those who may. */
export function OrderLinks(): ReactNode {
  const mayDesign = useMay("design");
  const curates = useMay("curate");
  const [open, setOpen] = useState<"categories" | "tags" | null>(null);
  if (!mayDesign) return null;
  return (
    <Foot>
      {curates && <Link to="/shelf/duplicates">Duplicates</Link>}
      {curates && <WordButton onPress={() => setOpen("categories")}>Arrange categories</WordButton>}
      {curates && <WordButton onPress={() => setOpen("tags")}>Rename tags</WordButton>}
      <Link to="/shelf/bin">Bin</Link>
      {open === "categories" && <CategoriesSheet onClose={() => setOpen(null)} />}
      {open === "tags" && <TagsSheet onClose={() => setOpen(null)} />}
    </Foot>
  );
}
