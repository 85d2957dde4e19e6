import { TextArea, TextField } from "react-aria-components";
import styled from "styled-components";
import { WordButton } from "../../kit/Button";
import { useInPlace } from "../../kit/useInPlace";

const Field = styled(TextField)`
  display: grid;
  padding: 6px 0 2px;
`;
const Lines = styled(TextArea)`
  width: 100%;
  border: 0;
  border-left: 2px solid ${(p) => p.theme.tokens.line};
  padding: 2px 0 2px 10px;
  background: none;
  resize: none;
  /* As tall as what stands in it. */
  field-sizing: content;
  min-height: 2.6em;
  line-height: 1.35;
  &::placeholder {
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Opens = styled(WordButton)`
  margin-top: 12px;
`;
const MOST = 400;

interface Props {
  readonly note: string;
  readonly onChange: (note: string) => void;
  readonly onDone: () => void;
}

/** Why the step is there: goes with the look, for whoever reads it. */
export function StepNote({ note, onChange, onDone }: Props) {
  const place = useInPlace();
  if (note === "" && !place.isOpen)
    return (
      <Opens autoFocus={place.autoFocus} onPress={place.open}>
        Say why it is here…
      </Opens>
    );
  return (
    <Field
      aria-label="Why the step is here"
      value={note}
      maxLength={MOST}
      autoFocus={place.isOpen}
      onChange={onChange}
      onBlur={() => {
        onDone();
        if (place.isOpen) place.fold();
      }}
    >
      <Lines
        rows={2}
        placeholder="Why it is here, for whoever reads the look"
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key !== "Escape") return;
          if (note === "") place.close();
          else event.currentTarget.blur();
        }}
      />
    </Field>
  );
}
