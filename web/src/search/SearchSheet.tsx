import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Search } from "lucide-react";
import { useDeferredValue, useMemo, useState, type KeyboardEvent as Pressed } from "react";
import {
  Autocomplete,
  Collection,
  Dialog,
  Input,
  ListBox,
  ListBoxSection,
  Modal,
  ModalOverlay,
} from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { session } from "../api/session";
import { searchEverything } from "../api/start";
import { actionsHere, buttonsHere } from "../browser/actions";
import { FindField, FoundLine, FoundTitle, NothingFound } from "../kit/finder";
import { oneLine } from "../kit/oneLine";
import { useHeldKeys } from "../kit/useHeldKeys";
import { usePictureChoice } from "../media/usePictureChoice";
import { groupOfButtons, groupsFound, groupsHere, type Group, type Item } from "./found";

const Veil = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 40;
  display: grid;
  justify-items: center;
  align-items: start;
  padding-top: 9vh;
  background: rgb(0 0 0 / 34%);
`;
const Panel = styled(Modal)`
  width: min(580px, calc(100vw - 64px));
  background: ${(p) => p.theme.tokens.glaze};
  border-radius: ${(p) => p.theme.tokens.radius.sheet};
  overflow: hidden;
`;
const Body = styled(Dialog)`
  outline: none;
`;
const Rows = styled.div`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  max-height: min(620px, 80vh);
`;
const Field = styled(FindField)`
  padding: 10px 16px;
  > svg {
    width: 18px;
    height: 18px;
  }
  input {
    font-size: ${(p) => p.theme.tokens.size.title};
  }
`;
const List = styled(ListBox<Group>)`
  overflow-y: auto;
  padding: 0 6px 8px;
  outline: none;
`;
const Line = styled(FoundLine)`
  grid-template-columns: minmax(0, auto) minmax(0, 1fr);
  gap: 14px;
  min-height: 32px;
  padding: 3px 10px;
  &[data-pictured] {
    grid-template-columns: 52px minmax(0, auto) minmax(0, 1fr);
  }
  img {
    width: 52px;
    height: 30px;
    object-fit: cover;
    border-radius: 3px;
    background: ${(p) => p.theme.tokens.hush};
  }
  span,
  small {
    ${oneLine}
  }
  span {
    font-weight: 500;
  }
  small {
    justify-self: end;
    max-width: 100%;
  }
`;

/** Everything by a few words: what can be done on the page in view, the places, and whatever has such a name. */
export function SearchSheet({ onClose }: { onClose: () => void }) {
  const [typed, setTyped] = useState("");
  const asked = useDeferredValue(typed.trim());
  const { data: here } = useQuery(session);
  const {
    data: found,
    error,
    isPlaceholderData,
    isFetching,
  } = useQuery({
    ...searchEverything(asked),
    placeholderData: keepPreviousData,
  });
  const { chosen } = usePictureChoice();
  // As they were when it was opened: the page below does not change meanwhile.
  const [actions] = useState(actionsHere);
  const [buttons] = useState(buttonsHere);
  const navigate = useNavigate();
  const isSettled = asked === typed.trim() && (asked === "" || error !== null || (!isFetching && !isPlaceholderData));
  const hold = useHeldKeys(isSettled);
  const groups = useMemo(
    () => [
      ...groupsHere(typed.trim(), actions, here?.may ?? []),
      ...(asked !== "" && found ? groupsFound(found, chosen) : []),
      ...groupOfButtons(typed.trim(), buttons, actions),
    ],
    [typed, asked, actions, buttons, here, found, chosen],
  );

  function pressed(event: Pressed<HTMLElement>) {
    // A button is pressed by who has walked to it, not by who goes to whatever comes first.
    const [first] = groups.find((one) => one.id !== "buttons")?.items ?? [];
    const isWalking = event.target instanceof HTMLElement && event.target.hasAttribute("aria-activedescendant");
    if (event.key !== "Enter" || isWalking || !first || !isSettled) {
      hold(event);
      return;
    }
    event.preventDefault();
    event.stopPropagation();
    take(first);
  }

  function take(item: Item) {
    onClose();
    if (typeof item.to === "string") void navigate(item.to);
    // Once what is open has closed and given back the focus, so that what opens next has it.
    else requestAnimationFrame(item.to);
  }

  return (
    <Veil isOpen onOpenChange={(open) => !open && onClose()} isDismissable data-veil>
      <Panel>
        <Body aria-label="Search everything">
          <Rows onKeyDownCapture={pressed}>
            <Autocomplete inputValue={typed} onInputChange={setTyped}>
              <Field aria-label="Search everything" autoFocus>
                <Search aria-hidden />
                <Input placeholder="Go to a look, a shot, a page; or do something here" maxLength={200} />
              </Field>
              <List
                aria-label="Found"
                items={groups}
                selectionMode="none"
                onAction={(key) => {
                  const item = groups.flatMap((one) => one.items).find((one) => one.id === key);
                  if (item) take(item);
                }}
                renderEmptyState={() => (
                  <NothingFound role="status">
                    {error ? wordsFor(error) : isSettled ? "Nothing here has such a name." : "Looking…"}
                  </NothingFound>
                )}
              >
                {(group) => (
                  <ListBoxSection id={group.id}>
                    <FoundTitle>{group.name}</FoundTitle>
                    <Collection items={group.items}>
                      {(item) => (
                        <Line id={item.id} textValue={item.name} data-pictured={item.image ? true : undefined}>
                          {item.image && <img src={item.image} alt="" loading="lazy" draggable={false} />}
                          <span>{item.name}</span>
                          <small>{item.detail}</small>
                        </Line>
                      )}
                    </Collection>
                  </ListBoxSection>
                )}
              </List>
            </Autocomplete>
          </Rows>
        </Body>
      </Panel>
    </Veil>
  );
}
