import { useQuery } from "@tanstack/react-query";
import { rights } from "../api/packing";
import type { Kind } from "../api/types";
import { Notice } from "../kit/Notice";

interface Props {
  readonly kind: Kind;
  readonly id: number;
  /** Of a look, in place of its draft. */
  readonly version?: number | null;
}

/** Said where files are taken: why what is taken, or something in it, is not free to be passed on. Nothing where it is. */
export function RightsNote({ kind, id, version = null }: Props) {
  const { data } = useQuery(rights(kind, id, version));
  if (!data || data.held.length === 0) return null;
  const more = data.held.length > 2 ? `, and ${String(data.held.length - 2)} more` : "";
  return (
    <Notice tone="word">
      Not free to be passed on: <bdi>{data.held.slice(0, 2).join("; ")}</bdi>
      {more}.
    </Notice>
  );
}
