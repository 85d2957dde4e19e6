import { useState } from "react";
import styled from "styled-components";
import { Secondary, WordButton } from "../../../kit/Button";
import { Notice } from "../../../kit/Notice";
import { TextBox } from "../../../kit/TextBox";
import { useInPlace } from "../../../kit/useInPlace";
import { listOf, readList, type Scale } from "./listed";
import type { Point } from "./points";

const Form = styled.form`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: end;
  gap: 8px;
  margin-top: 8px;
  > :nth-child(3) {
    grid-column: 1 / -1;
  }
`;
const Opens = styled(WordButton)`
  margin-top: 8px;
`;

interface Props {
  readonly points: readonly Point[];
  readonly scale: Scale;
  readonly units: string;
  readonly onTake: (points: readonly Point[]) => void;
}

/** All points of a curve in one line, to be typed, pasted or copied. Enter takes them, Escape leaves them. */
export function PointList({ points, scale, units, onTake }: Props) {
  const place = useInPlace();
  const [text, setText] = useState("");
  const [problem, setProblem] = useState("");
  if (!place.isOpen)
    return (
      <Opens
        autoFocus={place.autoFocus}
        onPress={() => {
          setText(listOf(points, scale));
          setProblem("");
          place.open();
        }}
      >
        As a list…
      </Opens>
    );
  return (
    <Form
      onKeyDown={place.onKeyDown}
      onSubmit={(event) => {
        event.preventDefault();
        const found = readList(text, scale);
        if ("problem" in found) {
          setProblem(found.problem);
          return;
        }
        onTake(found.points);
        place.close();
      }}
    >
      <TextBox label={`Points, in-out, ${units}`} value={text} onChange={setText} maxLength={400} autoFocus selects />
      <Secondary type="submit">Take them</Secondary>
      {problem && <Notice>{problem}</Notice>}
    </Form>
  );
}
