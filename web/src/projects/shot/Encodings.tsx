import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { encodings as encodingsQuery } from "../../api/encodings";
import { Block } from "./parts";
import { withoutMarks } from "../../kit/PlainList";

const Junctions = styled.ol`
  ${withoutMarks}
  display: grid;
  gap: 2px;
  li {
    display: flex;
    justify-content: space-between;
    gap: 10px;
  }
  li + li {
    border-top: 1px solid ${(p) => p.theme.tokens.line};
    padding-top: 2px;
  }
`;

/** The encodings a shot goes through, from what it is in to what it is delivered in. */
export function Encodings({ junctions }: { junctions: readonly { encoding: string; what: string }[] }) {
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const nameOf = (id: string) => encodings.find((one) => one.id === id)?.name ?? id;
  return (
    <Block aria-label="Encodings">
      <h2>Encodings on the way</h2>
      <Junctions>
        {junctions.map((one, index) => (
          <li key={index}>
            <span>{nameOf(one.encoding)}</span>
            <small>{one.what}</small>
          </li>
        ))}
      </Junctions>
    </Block>
  );
}
