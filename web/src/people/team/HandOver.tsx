import { useState } from "react";
import styled from "styled-components";
import type { Account } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Picker } from "../../kit/Picker";
import { ownsOf } from "./words";

const Root = styled.div`
  display: grid;
  gap: 10px;
  padding: 12px 14px;
  background: ${(p) => p.theme.tokens.hush};
  border-radius: ${(p) => p.theme.tokens.radius.field};
`;
const Row = styled.div`
  display: flex;
  gap: 8px;
`;

interface Props {
  readonly from: Account;
  readonly team: readonly Account[];
  readonly onChosen: (to: string) => void;
  readonly onLeft: () => void;
}

/** To whom everything of somebody goes. */
export function HandOver({ from, team, onChosen, onLeft }: Props) {
  const fit = team.filter(
    (one) => one.is_active && !one.is_service && one.role !== "viewer" && one.username !== from.username,
  );
  const [to, setTo] = useState(fit[0]?.username ?? "");
  return (
    <Root>
      <p>{ownsOf(from)}, and what of theirs lies in the bin. Who made it stays written on it; whose it is changes.</p>
      {fit.length === 0 ? (
        <p>There is nobody else who designs. Invite somebody first.</p>
      ) : (
        <Picker
          label="To"
          value={to}
          options={fit.map((one) => ({ id: one.username, name: one.name, note: one.role }))}
          onChange={setTo}
        />
      )}
      <Row>
        <Primary isDisabled={!to} onPress={() => onChosen(to)}>
          Hand over
        </Primary>
        <Secondary onPress={onLeft}>Leave it</Secondary>
      </Row>
    </Root>
  );
}
