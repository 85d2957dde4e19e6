import { useMemo, useState } from "react";
import { Collection, ListBox, ListBoxItem, ListBoxSection } from "react-aria-components";
import styled from "styled-components";
import { discOf } from "../api/pictures";
import type { Picture } from "../api/types";
import { Choice } from "../kit/Choice";
import { FoundTitle, NothingFound } from "../kit/finder";
import { oneLine } from "../kit/oneLine";
import { TextBox } from "../kit/TextBox";
import { grouped, type Order, type PictureGroup } from "./grouped";

const Tools = styled.div`
  display: flex;
  align-items: end;
  gap: 14px;
  > :first-child {
    flex: 1;
    max-width: 300px;
  }
`;
const Grid = styled(ListBox<PictureGroup>)`
  overflow-y: auto;
  outline: none;
  border: 1px solid ${(p) => p.theme.tokens.line};
  border-radius: ${(p) => p.theme.tokens.radius.field};
  padding: 8px;
`;
const Group = styled(ListBoxSection)`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(104px, 1fr));
  gap: 8px;
  padding-bottom: 12px;
`;
const Title = styled(FoundTitle)`
  grid-column: 1 / -1;
  padding: 0;
`;
const Tile = styled(ListBoxItem)`
  display: grid;
  gap: 3px;
  padding: 4px;
  border-radius: 6px;
  cursor: pointer;
  outline: none;
  min-width: 0;
  content-visibility: auto;
  contain-intrinsic-size: 104px 112px;
  &[data-hovered] {
    background: ${(p) => p.theme.tokens.hush};
  }
  &[data-selected] {
    background: ${(p) => p.theme.tokens.accentWash};
    box-shadow: inset 0 0 0 2px ${(p) => p.theme.tokens.accent};
  }
  &[data-focus-visible] {
    outline: 2px solid ${(p) => p.theme.tokens.ink};
  }
  img {
    display: block;
    width: 100%;
    aspect-ratio: 4 / 3;
    object-fit: cover;
    border-radius: 3px;
    background: ${(p) => p.theme.tokens.hush};
  }
  span,
  small {
    ${oneLine}
    font-size: ${(p) => p.theme.tokens.size.small};
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
  }
`;

interface Props {
  readonly pictures: readonly Picture[];
  readonly chosen: ReadonlySet<number>;
  /** Those that are shots of the project already. */
  readonly there?: ReadonlySet<number>;
  /** So many at most. */
  readonly most?: number;
  /** Pixels. */
  readonly height?: number;
  readonly onChange: (chosen: ReadonlySet<number>) => void;
}

const NONE: ReadonlySet<number> = new Set();

/** Pictures to choose from, with their names: searched, by folder or by day; Shift stretches what is chosen, Ctrl A takes all that are found. */
export function PictureGrid({ pictures, chosen, there = NONE, most, height = 300, onChange }: Props) {
  const [search, setSearch] = useState("");
  const [order, setOrder] = useState<Order>("all");
  const groups = useMemo(() => grouped(pictures, search, order), [pictures, search, order]);
  const shown = useMemo(() => new Set(groups.flatMap((one) => one.pictures.map(({ id }) => id))), [groups]);
  return (
    <>
      <Tools>
        <TextBox
          label="Search"
          hideLabel
          type="search"
          value={search}
          onChange={setSearch}
          placeholder="A name, a file, a folder"
        />
        <Choice
          label="In which order"
          value={order}
          options={[
            ["all", "All"],
            ["folder", "By folder"],
            ["date", "By day"],
          ]}
          onChange={setOrder}
        />
      </Tools>
      <Grid
        aria-label="Pictures"
        style={{ height }}
        layout="grid"
        items={groups}
        selectionMode="multiple"
        selectionBehavior="toggle"
        selectedKeys={[...chosen].filter((id) => shown.has(id))}
        dependencies={[there]}
        onSelectionChange={(keys) => {
          const now = keys === "all" ? shown : new Set([...keys].map(Number));
          // What the search hides at the moment stays as it was.
          const next = [...[...chosen].filter((id) => !shown.has(id)), ...now];
          if (most === undefined || next.length <= most) onChange(new Set(next));
        }}
        renderEmptyState={() => (
          <NothingFound>
            {search ? "Nothing has all of these words." : "There are no pictures in the studio yet."}
          </NothingFound>
        )}
      >
        {(group) => (
          <Group id={group.id}>
            {group.name && <Title>{group.name}</Title>}
            <Collection items={group.pictures} dependencies={[there]}>
              {(one) => (
                <Tile id={one.id} textValue={one.name}>
                  <img src={discOf(one.id, one.state)} alt="" loading="lazy" draggable={false} />
                  <span title={one.name}>{one.name}</span>
                  <small>
                    {[there.has(one.id) ? "in the project" : "", one.moving ? `${String(one.moving.count)} frames` : ""]
                      .filter(Boolean)
                      .join(", ") || `${String(one.width)} x ${String(one.height)}`}
                  </small>
                </Tile>
              )}
            </Collection>
          </Group>
        )}
      </Grid>
    </>
  );
}
