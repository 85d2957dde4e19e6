import { useMemo } from "react";
import type { Shot } from "../../api/types";
import { CardPicture } from "./CardPicture";

interface Props {
  readonly shot: Shot;
  readonly entry: number;
  /** Which of a look's family. */
  readonly member?: string;
  /** On top of what lies there, not in its place. */
  readonly stack: boolean;
}

/** The shot through an entry, once it comes into sight. */
export function ThroughEntry({ shot, entry, member = "", stack }: Props) {
  const seen = useMemo(() => ({ newest: false, trying: entry, member, stack }), [entry, member, stack]);
  return <CardPicture shot={shot} seen={seen} />;
}
