import { useQuery } from "@tanstack/react-query";
import { Bookmark, X } from "lucide-react";
import { useState } from "react";
import { ToggleButton } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { keptChoices, useForgetChoice, useKeepChoice, type DeliveryChoice } from "../../api/projects";
import { IconButton, Secondary, WordButton } from "../../kit/Button";
import { Flyout } from "../../kit/Flyout";
import { Notice } from "../../kit/Notice";
import { PlainList } from "../../kit/PlainList";
import { TextBox } from "../../kit/TextBox";
import { isSame } from "./firstChoice";

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px;
`;
const Name = styled(ToggleButton)`
  padding: 3px 12px;
  min-height: 26px;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  border: 1px solid ${(p) => p.theme.tokens.line};
  border-radius: 13px;
  background: none;
  cursor: pointer;
  &[data-hovered] {
    border-color: ${(p) => p.theme.tokens.faint};
  }
  &[data-selected] {
    background: ${(p) => p.theme.tokens.ink};
    border-color: ${(p) => p.theme.tokens.ink};
    color: ${(p) => p.theme.tokens.glaze};
  }
`;
const Own = styled(PlainList)`
  li {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 8px;
  }
`;

interface Props {
  readonly choice: DeliveryChoice;
  readonly onTake: (choice: DeliveryChoice) => void;
}

/** What the team delivers again and again, by the names that it gave: taken by a press, kept as it stands in the sheet. */
export function KeptChoices({ choice, onTake }: Props) {
  const { data: kept = [], error } = useQuery(keptChoices);
  const keep = useKeepChoice();
  const forget = useForgetChoice();
  const [name, setName] = useState("");
  const own = kept.filter((one) => one.may_change);
  const trouble = error ?? keep.error ?? forget.error;
  return (
    <>
      <Row role="group" aria-label="Kept choices">
        {kept.map((one) => (
          <Name key={one.id} isSelected={isSame(one.choice, choice)} onChange={() => onTake(one.choice)}>
            <bdi>{one.name}</bdi>
          </Name>
        ))}
        <Flyout
          label="Keep what is chosen here"
          button={
            <WordButton>
              <Bookmark size={13} aria-hidden /> Keep this by a name…
            </WordButton>
          }
        >
          {(close) => (
            <>
              <form
                onSubmit={(event) => {
                  event.preventDefault();
                  keep.mutate(
                    { name, choice },
                    {
                      onSuccess: () => {
                        setName("");
                        close();
                      },
                    },
                  );
                }}
              >
                <TextBox
                  label="For whom or what; a name that is there holds this from now on"
                  value={name}
                  onChange={setName}
                  maxLength={80}
                  placeholder="For the client"
                  autoFocus
                />
                <p>
                  <Secondary type="submit" isDisabled={name.trim() === ""} isPending={keep.isPending}>
                    Keep
                  </Secondary>
                </p>
              </form>
              {own.length > 0 && (
                <Own aria-label="Kept">
                  {own.map((one) => (
                    <li key={one.id}>
                      <bdi>{one.name}</bdi>
                      <IconButton aria-label={`Forget ${one.name}`} onPress={() => forget.mutate(one.id)}>
                        <X aria-hidden />
                      </IconButton>
                    </li>
                  ))}
                </Own>
              )}
            </>
          )}
        </Flyout>
      </Row>
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
    </>
  );
}
