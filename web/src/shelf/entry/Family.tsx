import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { familyTold } from "../../api/looks";
import type { Look } from "../../api/types";
import { Choice } from "../../kit/Choice";
import { withoutMarks } from "../../kit/PlainList";
import { Block } from "./layout";

const Lines = styled.ul`
  ${withoutMarks}
  font-size: ${(p) => p.theme.tokens.size.small};
  color: ${(p) => p.theme.tokens.soft};
  li {
    padding: 1px 0;
    overflow-wrap: anywhere;
  }
`;
const Each = styled(Choice)`
  margin-left: -4px;
  button {
    max-width: 290px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
` as typeof Choice;

interface Props {
  readonly look: Look;
  /** Which of them is seen; empty for the recipe. */
  readonly member: string;
  readonly onMember: (member: string) => void;
}

/** The family of a look: which of them is seen, and in what it differs from the recipe. */
export function Family({ look, member, onMember }: Props) {
  const names = (look.family ?? []).map((one) => one.name);
  const { data: told } = useQuery({ ...familyTold(look), enabled: names.length > 0 });
  if (names.length === 0) return null;
  const changes = told?.find((one) => one.name === member)?.changes ?? [];
  return (
    <Block aria-label="Family">
      <h2>Family</h2>
      <Each
        label="Which of the family"
        value={member}
        options={[["", "Recipe"] as const, ...names.map((name) => [name, name] as const)]}
        onChange={onMember}
      />
      {changes.length > 0 && (
        <Lines aria-label="Beside the recipe">
          {changes.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </Lines>
      )}
    </Block>
  );
}
