import { useId, useState, type ReactNode } from "react";
import styled from "styled-components";
import { TextBox } from "../../kit/TextBox";

const Below = styled.div`
  margin-top: 6px;
`;

interface Unsaved {
  readonly text: string;
  /** What stood there when they began to write it. */
  readonly seen: string;
  /** Why, and what can be done about it. */
  readonly why: ReactNode;
}

export interface TextFactProps {
  readonly label: string;
  readonly value: string;
  /** What the person wrote here and could not be saved, shown in place of the value. */
  readonly unsaved?: Unsaved | undefined;
  readonly max: number;
  readonly placeholder?: string;
  /** What others of the kind are called, to choose from. */
  readonly list?: readonly string[];
  /** An empty text is left as it was. */
  readonly required?: boolean;
  /** seen: what stood there when the person began to type. */
  readonly onSave: (value: string, seen: string) => void;
}

/** A text that is saved when the person leaves it. */
export function TextFact({
  label,
  value,
  unsaved,
  max,
  placeholder = "Not said",
  list,
  required = false,
  onSave,
}: TextFactProps) {
  const id = useId();
  const [draft, setDraft] = useState<{ text: string; seen: string } | null>(null);

  function leave() {
    if (draft && draft.text !== draft.seen && draft.text !== unsaved?.text && !(required && draft.text.trim() === ""))
      onSave(draft.text, draft.seen);
    setDraft(null);
  }

  return (
    <div onBlur={leave}>
      <TextBox
        label={label}
        value={draft?.text ?? unsaved?.text ?? value}
        onChange={(text) => setDraft({ text, seen: draft?.seen ?? unsaved?.seen ?? value })}
        maxLength={max}
        placeholder={placeholder}
        {...(list ? { list: id } : {})}
      />
      {list && (
        <datalist id={id}>
          {list.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
      {unsaved && <Below>{unsaved.why}</Below>}
    </div>
  );
}
