import { useId, useState } from "react";
import { TextBox } from "../../kit/TextBox";

interface Props {
  readonly label: string;
  readonly value: string;
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
export function TextFact({ label, value, max, placeholder = "Not said", list, required = false, onSave }: Props) {
  const id = useId();
  const [draft, setDraft] = useState<{ text: string; seen: string } | null>(null);

  function leave() {
    if (draft && draft.text !== draft.seen && !(required && draft.text.trim() === "")) onSave(draft.text, draft.seen);
    setDraft(null);
  }

  return (
    <div onBlur={leave}>
      <TextBox
        label={label}
        value={draft?.text ?? value}
        onChange={(text) => setDraft({ text, seen: draft?.seen ?? value })}
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
    </div>
  );
}
