import { useMemo } from "react";
import type { Shot } from "../../api/types";
import { CardPicture } from "./CardPicture";

interface Props {
  readonly shot: Shot;
  readonly entry: number;
  /** On top of what lies there, not in its place. */
  readonly stack: boolean;
}

/** The shot through an entry, once it comes into sight. */
export function ThroughEntry({ shot, entry, stack }: Props) {
  const seen = useMemo(() => ({ newest: false, trying: entry, stack }), [entry, stack]);
  return <CardPicture shot={shot} seen={seen} />;
}
