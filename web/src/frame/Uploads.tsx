import { useEffect, useSyncExternalStore } from "react";
import styled from "styled-components";
import { uploads, type Upload } from "../api/uploads";
import { Bar } from "../jobs/JobLine";
import { sizeOf, timeOf } from "../kit/amounts";
import { WordButton } from "../kit/Button";

const Line = styled.li`
  && {
    gap: 4px;
  }
  > span {
    display: flex;
    justify-content: space-between;
    gap: 10px;
  }
`;

export const useUploads = (): readonly Upload[] => useSyncExternalStore(uploads.subscribe, uploads.get);

/** How far all of it is, 0..1. */
export const shareOf = (some: readonly Upload[]): number => {
  const bytes = some.reduce((sum, one) => sum + one.bytes, 0);
  return bytes > 0 ? some.reduce((sum, one) => sum + one.sent, 0) / bytes : 0;
};

/** How far it is, how fast it goes and how long it takes still. */
export function wordsOf({
  bytes,
  sent,
  rate,
  isWaiting,
}: Pick<Upload, "bytes" | "sent" | "rate" | "isWaiting">): string {
  const so = `${sizeOf(sent)} of ${sizeOf(bytes)}`;
  if (isWaiting) return `${so}; the connection is lost, it goes on from here when it is back`;
  if (sent >= bytes) return `${sizeOf(bytes)} sent; the server reads it`;
  return rate > 0 ? `${so}, ${sizeOf(rate)} a second, about ${timeOf((bytes - sent) / rate)}` : so;
}

/** Asks whoever would close the page while files are on their way. For what is there on every page. */
export function useAskBeforeLeaving(): void {
  const isGoing = useUploads().length > 0;
  useEffect(() => {
    if (!isGoing) return undefined;
    // Whoever closes the page would lose what has not arrived.
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [isGoing]);
}

/** What is on its way to the server, file by file; each can be stopped. */
export function Uploads() {
  const some = useUploads();
  if (some.length === 0) return null;
  return (
    <ul aria-label="On their way to the server">
      {some.map((one) => (
        <Line key={one.id}>
          <span>
            <bdi>{one.name}</bdi>
            <WordButton aria-label={`Cancel ${one.name}`} onPress={one.cancel}>
              Cancel
            </WordButton>
          </span>
          <Bar value={one.sent} max={Math.max(1, one.bytes)} aria-label={`${one.name}: how much has been sent`} />
          <small>{wordsOf(one)}</small>
        </Line>
      ))}
    </ul>
  );
}
