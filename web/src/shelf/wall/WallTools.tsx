import { Grid2x2, Grid3x3, List, Rows3, Square } from "lucide-react";
import type { ReactNode } from "react";
import styled from "styled-components";
import { discOf } from "../../api/pictures";
import type { Order } from "../../api/shelf";
import { Choice } from "../../kit/Choice";
import { Disc } from "../../kit/Disc";
import { Picker } from "../../kit/Picker";
import { SurroundChoice } from "../../kit/SurroundChoice";
import { TextBox } from "../../kit/TextBox";
import { orders, type Layout } from "./address";
import { ChooseFrame, type OwnFrame } from "./OwnFrame";
import type { ShelfShown } from "./useShelf";

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
const layouts: readonly (readonly [Layout, ReactNode])[] = [
  ["small", <Grid3x3 key="small" aria-label="Small cards" />],
  ["cards", <Grid2x2 key="cards" aria-label="Cards" />],
  ["large", <Square key="large" aria-label="Large cards" />],
  ["rows", <Rows3 key="rows" aria-label="Rows on three pictures" />],
  ["list", <List key="list" aria-label="List" />],
];

/** What is looked for, in which order and size, and on which picture. */
export function WallTools({ shelf, frame }: { shelf: ShelfShown; frame: OwnFrame }) {
  const { seen, wanted, chosen, pictures } = shelf;
  return (
    <Tools>
      <TextBox
        label="Find"
        hideLabel
        type="search"
        value={shelf.search}
        onChange={shelf.find}
        placeholder="A name, a tag, or what it does: warm faded"
      />
      <Picker
        label="Order"
        hideLabel
        value={wanted.order}
        options={orders.map(([id, name]) => ({ id, name }))}
        onChange={(order) => shelf.show({ wanted: { ...wanted, order: order as Order } })}
      />
      <Layouts label="Layout" value={seen.layout} options={layouts} onChange={(layout) => shelf.show({ layout })} />
      <Gap />
      {chosen && (
        <>
          <Disc $size={34} style={{ backgroundImage: `url(${discOf(chosen.id, chosen.state)})` }} />
          <Picker
            label="Previewed on"
            hideLabel
            value={String(chosen.id)}
            options={pictures.map((one) => ({ id: String(one.id), name: one.name }))}
            onChange={(id) => shelf.lookOn(Number(id))}
          />
        </>
      )}
      <ChooseFrame frame={frame} />
      <SurroundChoice />
    </Tools>
  );
}
