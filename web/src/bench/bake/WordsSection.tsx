import { Check } from "../../kit/Check";
import { TextBox } from "../../kit/TextBox";
import { nameOf } from "./choices";
import { Pair, Section } from "./layout";
import type { BakeChoices } from "./useBakeChoices";

/** What is written into the files, and whether they also stand on the Shelf by themselves. */
export function WordsSection({ chosen: { choices, set, whole } }: { chosen: BakeChoices }) {
  return (
    <Section aria-label="Words in the file">
      <h3>Words in the file</h3>
      <Pair>
        <TextBox
          label="Title"
          value={choices.title ?? nameOf(whole, choices)}
          onChange={(title) => set({ title })}
          maxLength={120}
        />
        <TextBox
          label="Author"
          value={choices.author}
          onChange={(author) => set({ author })}
          maxLength={120}
          placeholder="Who made the look"
        />
      </Pair>
      <TextBox
        label="Rights"
        value={choices.rights}
        onChange={(rights) => set({ rights })}
        maxLength={200}
        placeholder="Who may use it, and for what"
      />
      <TextBox label="Note" value={choices.note} onChange={(note) => set({ note })} maxLength={2000} />
      <Check isOn={choices.ownEntry} onChange={(ownEntry) => set({ ownEntry })}>
        Also as an entry of its own on the Shelf
      </Check>
    </Section>
  );
}
