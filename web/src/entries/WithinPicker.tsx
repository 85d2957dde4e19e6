import { useQuery } from "@tanstack/react-query";
import { categories } from "../api/shelf";
import { Picker } from "../kit/Picker";
import { EVERYWHERE, STARRED } from "./within";

interface Props {
  readonly value: string;
  readonly onChange: (within: string) => void;
}

/** Where looks, presets and LUTs are looked for. */
export function WithinPicker({ value, onChange }: Props) {
  const { data = [] } = useQuery(categories);
  const options = [
    { id: EVERYWHERE, name: "Everywhere" },
    { id: STARRED, name: "Starred ones" },
    ...data.map((path) => ({ id: path, name: path.replaceAll("/", " / "), group: "Folders" })),
  ];
  return <Picker label="Where to look" hideLabel value={value} options={options} onChange={onChange} />;
}
