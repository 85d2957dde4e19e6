import { useQuery } from "@tanstack/react-query";
import { familyOf } from "../../api/looks";
import { Picker } from "../../kit/Picker";

interface Props {
  readonly name: string;
  readonly look: number;
  readonly version: number;
  readonly member: string;
  readonly onChange: (member: string) => void;
}

/** Which of a look's family lies there; nothing where the version has none. */
export function WhichOfFamily({ name, look, version, member, onChange }: Props) {
  const { data: family = [] } = useQuery(familyOf(look, version));
  if (family.length === 0) return null;
  return (
    <Picker
      label={`Which of the family of ${name}`}
      hideLabel
      value={member}
      options={[
        { id: "", name: "Recipe" },
        ...family.map((one) => ({ id: one.name, name: one.name, note: one.changes.join("; ") })),
      ]}
      onChange={onChange}
    />
  );
}
