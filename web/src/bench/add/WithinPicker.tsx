import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { categories } from "../../api/shelf";
import { Picker } from "../../kit/Picker";
import { EVERYWHERE, STARRED } from "./candidates";

const Row = styled.div`
  display: grid;
  padding: 10px 16px 4px;
`;

interface Props {
  readonly value: string;
  readonly onChange: (within: string) => void;
}

/** Where presets and LUTs are looked for. */
export function WithinPicker({ value, onChange }: Props) {
  const { data = [] } = useQuery(categories);
  const options = [
    { id: EVERYWHERE, name: "Everywhere" },
    { id: STARRED, name: "Starred ones" },
    ...data.map((path) => ({ id: path, name: path.replaceAll("/", " / "), group: "Folders" })),
  ];
  return (
    <Row>
      <Picker label="Where to look" hideLabel value={value} options={options} onChange={onChange} />
    </Row>
  );
}
