import { useQuery } from "@tanstack/react-query";
import { encodings as encodingsQuery } from "../api/encodings";
import type { Encoding } from "../api/types";
import { Picker, type Option } from "../kit/Picker";
import { encodingOptions, usedEncoding } from "./encodingOptions";

const NONE: readonly Encoding[] = [];

interface Props {
  readonly label: string;
  readonly value: string;
  readonly onChange: (id: string) => void;
  /** What can be chosen in place of an encoding. */
  readonly first?: readonly Option[];
  readonly hideLabel?: boolean;
  /** Those that the project at hand has already. */
  readonly here?: readonly string[];
}

/** One of the encodings, by groups or by typing any of its names; the ones used last stand first. */
export function EncodingPicker({ label, value, onChange, first = [], hideLabel = false, here = [] }: Props) {
  const { data: encodings = NONE } = useQuery(encodingsQuery);
  return (
    <Picker
      label={label}
      hideLabel={hideLabel}
      value={value}
      options={[...first, ...encodingOptions(encodings, here)]}
      onChange={(id) => {
        usedEncoding(id);
        onChange(id);
      }}
    />
  );
}
