import { ChevronDown } from "lucide-react";
import { Menu as ActionMenu, MenuItem as ActionItem, MenuTrigger } from "react-aria-components";
import styled from "styled-components";
import { useActions } from "../../browser/actions";
import { Primary, Secondary } from "../../kit/Button";
import { Menu } from "../../kit/Picker";

const Actions = styled(ActionMenu)`
  outline: none;
  min-width: 280px;
`;
const MenuItem = styled(ActionItem)`
  padding: 6px 10px;
  border-radius: 5px;
  cursor: pointer;
  display: grid;
  color: ${(p) => p.theme.tokens.ink};
  outline: none;
  &[data-focused] {
    background: ${(p) => p.theme.tokens.accentWash};
  }
  b {
    font-weight: 500;
  }
  small {
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
interface Props {
  readonly onOpen: (sheet: "trip" | "pair") => void;
  readonly onBringIn: () => void;
  readonly onNew: () => void;
}

/** What can be made and brought in from the Shelf. */
export function TopActions({ onOpen, onBringIn, onNew }: Props) {
  useActions([
    { name: "New look", run: onNew },
    { name: "Bring in LUTs", run: onBringIn },
    { name: "Round trip: send a chart through another program, read it back", run: () => onOpen("trip") },
    { name: "Make a LUT from a pair of pictures", run: () => onOpen("pair") },
  ]);
  return (
    <>
      <MenuTrigger>
        <Secondary>
          Make a LUT <ChevronDown size={14} aria-hidden />
        </Secondary>
        <Menu placement="bottom end">
          <Actions aria-label="Make a LUT" onAction={(key) => onOpen(key as "trip" | "pair")}>
            <MenuItem id="trip" textValue="Round trip through another program">
              <b>Round trip</b>
              <small>Send a chart through another program, read it back</small>
            </MenuItem>
            <MenuItem id="pair" textValue="From a pair of pictures">
              <b>From a pair of pictures</b>
              <small>An original and its recoloured copy</small>
            </MenuItem>
          </Actions>
        </Menu>
      </MenuTrigger>
      <Secondary onPress={onBringIn}>Bring in LUTs</Secondary>
      <Primary onPress={onNew}>New look</Primary>
    </>
  );
}
