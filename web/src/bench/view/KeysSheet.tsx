import styled from "styled-components";
import { Sheet, SheetBody } from "../../kit/Sheet";
import { useBench } from "../../look/useBench";
import { alsoKeys, keysFor } from "./keys";

const List = styled.dl`
  display: grid;
  grid-template-columns: repeat(2, max-content minmax(0, 1fr));
  gap: 8px 14px;
  margin: 0;
  dt {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: ${(p) => p.theme.tokens.size.small};
    white-space: pre;
  }
  dd {
    margin: 0;
    color: ${(p) => p.theme.tokens.soft};
  }
`;

/** Which key does what. */
export function KeysSheet({ onClose }: { onClose: () => void }) {
  const bench = useBench();
  return (
    <Sheet title="Keys" isOpen onClose={onClose} width="820px">
      <SheetBody>
        <List>
          {[...keysFor(bench).map((key) => [key.shown, key.words] as const), ...alsoKeys].map(([shown, words]) => [
            <dt key={shown}>{shown}</dt>,
            <dd key={`${shown} words`}>{words}</dd>,
          ])}
        </List>
      </SheetBody>
    </Sheet>
  );
}
