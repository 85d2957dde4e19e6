import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { formats as formatsQuery } from "../../api/bakes";
import { Check } from "../../kit/Check";
import { Picker } from "../../kit/Picker";
import { toggled, type Choices } from "./choices";
import { withoutMarks } from "../../kit/PlainList";

const List = styled.ul`
  ${withoutMarks}
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 7px 14px;
  align-items: start;
  small {
    display: block;
    color: ${(p) => p.theme.tokens.soft};
    font-size: ${(p) => p.theme.tokens.size.small};
  }
`;
const Details = styled.div`
  display: flex;
  gap: 8px;
  margin: 4px 0 2px 24px;
`;

interface Props {
  readonly formats: Choices["formats"];
  readonly onChange: (formats: Choices["formats"]) => void;
}

/** Every format, several of which may be written at once; the first chosen is the one that looks will use. */
export function FormatList({ formats, onChange }: Props) {
  const { data = [] } = useQuery(formatsQuery);
  const known = [...data].sort(
    (a, b) => Number(b.id === "cube") - Number(a.id === "cube") || a.name.localeCompare(b.name),
  );
  const set = (id: string, change: { depth?: number; suffix?: string }) =>
    onChange(formats.map((one) => (one.format === id ? { ...one, ...change } : one)));
  return (
    <List aria-label="Formats">
      {known.map((form) => {
        const chosen = formats.find((one) => one.format === form.id);
        const suffix = form.suffixes[0] ?? "";
        return (
          <li key={form.id}>
            <Check
              isOn={chosen !== undefined}
              onChange={(on) => onChange(toggled(formats, form.id, on))}
              label={`${form.name}, ${suffix}`}
            >
              {form.name}
              <small>{form.suffixes.join(" ")}</small>
            </Check>
            {chosen && (form.depths.length > 1 || suffix === ".png") && (
              <Details>
                {form.depths.length > 1 && (
                  <Picker
                    label={`Bits of ${form.name}`}
                    hideLabel
                    value={String(chosen.depth || form.depths[0])}
                    options={[...form.depths]
                      .sort((a, b) => a - b)
                      .map((depth) => ({ id: String(depth), name: `${depth} bits` }))}
                    onChange={(depth) => set(form.id, { depth: Number(depth) })}
                  />
                )}
                {suffix === ".png" && (
                  <Picker
                    label={`File of ${form.name}`}
                    hideLabel
                    value={chosen.suffix || ".png"}
                    options={[
                      { id: ".png", name: "PNG" },
                      { id: ".tif", name: "TIFF" },
                    ]}
                    onChange={(value) => set(form.id, { suffix: value })}
                  />
                )}
              </Details>
            )}
          </li>
        );
      })}
    </List>
  );
}
