import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Button, Dialog, DialogTrigger } from "react-aria-components";
import styled from "styled-components";
import { firstEntries, markOf } from "../../api/shelf";
import { discOf } from "../../api/pictures";
import type { Entry, Picture } from "../../api/types";
import { Secondary } from "../../kit/Button";
import { Menu } from "../../kit/Picker";
import { PlainList } from "../../kit/PlainList";
import { TextBox } from "../../kit/TextBox";
import { oneLine } from "../../kit/oneLine";

const Panel = styled(Dialog)`
  width: 280px;
  padding: 8px;
  display: grid;
  gap: 8px;
  outline: none;
`;
const List = styled(PlainList)`
  max-height: 250px;
  overflow-y: auto;
`;
const Item = styled(Button)`
  display: flex;
  align-items: center;
  gap: 10px;
  width: 100%;
  padding: 4px 6px;
  border: 0;
  border-radius: 6px;
  background: none;
  color: ${(p) => p.theme.tokens.ink};
  text-align: left;
  cursor: pointer;
  &[data-hovered],
  &[data-focus-visible] {
    background: ${(p) => p.theme.tokens.accentWash};
  }
  img {
    width: 28px;
    height: 28px;
    border-radius: 50%;
    flex: none;
  }
  span {
    ${oneLine}
  }
`;

interface EntriesProps {
  readonly there: readonly number[];
  readonly onAdd: (entry: Entry) => void;
}

/** Another entry for the board, by its name or by what it does. */
export function AddEntry({ there, onAdd }: EntriesProps) {
  const [search, setSearch] = useState("");
  const { data } = useQuery(firstEntries({ search }, 30));
  const found = (data?.entries ?? []).filter((one) => !there.includes(one.id));
  return (
    <DialogTrigger>
      <Secondary>
        <Plus size={14} aria-hidden /> Entry
      </Secondary>
      <Menu placement="bottom end">
        <Panel aria-label="Add an entry">
          {({ close }) => (
            <>
              <TextBox
                label="Find an entry"
                hideLabel
                type="search"
                value={search}
                onChange={setSearch}
                placeholder="A name, or what it does"
                autoFocus
              />
              <List aria-label="Entries found">
                {found.map((entry) => (
                  <li key={entry.id}>
                    <Item
                      onPress={() => {
                        onAdd(entry);
                        close();
                      }}
                    >
                      <img src={markOf(entry, 56)} alt="" />
                      <span>{entry.name}</span>
                    </Item>
                  </li>
                ))}
              </List>
              {data && found.length === 0 && <p>Nothing else is called so.</p>}
            </>
          )}
        </Panel>
      </Menu>
    </DialogTrigger>
  );
}

interface PicturesProps {
  readonly pictures: readonly Picture[];
  readonly onAdd: (picture: Picture) => void;
}

/** Another picture across. */
export function AddPicture({ pictures, onAdd }: PicturesProps) {
  return (
    <DialogTrigger>
      <Secondary>
        <Plus size={14} aria-hidden /> Picture
      </Secondary>
      <Menu placement="bottom end">
        <Panel aria-label="Add a picture">
          {({ close }) => (
            <List aria-label="Pictures">
              {pictures.map((picture) => (
                <li key={picture.id}>
                  <Item
                    onPress={() => {
                      onAdd(picture);
                      close();
                    }}
                  >
                    <img src={discOf(picture.id, picture.state)} alt="" />
                    <span>{picture.name}</span>
                  </Item>
                </li>
              ))}
            </List>
          )}
        </Panel>
      </Menu>
    </DialogTrigger>
  );
}
