import styled from "styled-components";
import type { Step } from "../../../api/types";
import { SettingBar, type Setting } from "../../../kit/SettingBar";
import type { EditorProps } from "../editor";

const List = styled.div`
  display: grid;
  margin-top: 10px;
`;

interface Props<S extends Step> extends Pick<EditorProps<S>, "step" | "change" | "done"> {
  readonly title: string;
  /** One bar a field, in this order. */
  readonly settings: Readonly<Partial<Record<keyof S & string, Setting>>>;
}

/** The numbers of a step as bars that fill from neutral. */
export function Settings<S extends Step>({ step, title, settings, change, done }: Props<S>) {
  const values = step as unknown as Readonly<Record<string, number | undefined>>;
  return (
    <List role="group" aria-label={`Settings: ${title}`}>
      {(Object.entries(settings) as [string, Setting][]).map(([field, setting]) => (
        <SettingBar
          key={field}
          {...setting}
          value={values[field] ?? setting.neutral}
          onDone={done}
          onChange={(value, dragging) =>
            change(
              `${title}: ${setting.label.toLowerCase()}`,
              (before) => ({ ...before, [field]: value }),
              dragging ? field : undefined,
            )
          }
        />
      ))}
    </List>
  );
}
