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
  readonly onSave: (value: string) => void;
}

/** A text that is saved when the person leaves it. */
export function TextFact({ label, value, max, placeholder = "Not said", list, required = false, onSave }: Props) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);

  function leave() {
    if (draft !== null && draft !== value && !(required && draft.trim() === "")) onSave(draft);
    setDraft(null);
  }

  return (
    <div onBlur={leave}>
      <TextBox
        label={label}
        value={draft ?? value}
        onChange={setDraft}
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
