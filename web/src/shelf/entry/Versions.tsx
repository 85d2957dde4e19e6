import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { describeDifferences, fetchVersion } from "../../api/looks";
import { reviews as reviewsQuery } from "../../api/review";
import type { Described } from "../../api/types";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { stateNames } from "../words";
import { Block, Pair, Small } from "./layout";

const Changes = styled.ul`
  margin: 0;
  padding-left: 18px;
  display: grid;
  gap: 3px;
  overflow-wrap: anywhere;
`;

/** Which states of an entry the picture shows: a version or what the wall shows (null), beside another or the original (null). */
export interface Shown {
  readonly version: number | null;
  readonly beside: number | null;
}
const NOW = "now";

/** Words for what the later of two versions of a look does otherwise. */
function useDifferences(entry: Described, first: number | null, second: number | null) {
  return useQuery({
    queryKey: ["version-differences", entry.id, first, second],
    queryFn: async ({ signal }) => {
      const [before, after] = await Promise.all(
        [first, second].map((number) => fetchVersion(entry.id, number ?? 0, signal)),
      );
      return before && after ? describeDifferences(before, after, signal) : [];
    },
    enabled: entry.kind === "look" && first !== null && second !== null && first !== second,
    staleTime: Infinity,
  });
}

interface Props {
  readonly entry: Described;
  readonly shown: Shown;
  readonly onShown: (shown: Shown) => void;
}

/** Every version with who made it; two of them beside each other, by picture and in words. */
export function Versions({ entry, shown, onShown }: Props) {
  const { data } = useQuery(reviewsQuery(entry.kind, entry.id));
  const versions = data?.versions ?? [];
  const latest = versions[0]?.number ?? null;
  const { data: changes, error } = useDifferences(entry, shown.beside, shown.version ?? latest);
  const seen = versions.find((one) => one.number === (shown.version ?? latest));
  if (versions.length === 0) return null;
  const options = versions.map((one) => ({
    id: String(one.number),
    name: `Version ${String(one.number)}`,
    note: [stateNames[one.state].toLowerCase(), one.by, one.made.slice(0, 10), one.note].filter(Boolean).join(", "),
  }));
  const number = (id: string) => (id === NOW ? null : Number(id));
  return (
    <Block aria-label="Versions">
      <h2>Versions</h2>
      <Pair>
        <Picker
          label="The picture shows"
          value={shown.version === null ? NOW : String(shown.version)}
          options={[{ id: NOW, name: entry.kind === "look" ? "As it is now" : "The latest" }, ...options]}
          onChange={(id) => onShown({ ...shown, version: number(id) })}
        />
        <Picker
          label="Beside"
          value={shown.beside === null ? NOW : String(shown.beside)}
          options={[{ id: NOW, name: "The original" }, ...options]}
          onChange={(id) => onShown({ ...shown, beside: number(id) })}
        />
      </Pair>
      {seen && (
        <Small>
          Version {seen.number}, {stateNames[seen.state].toLowerCase()}: <bdi>{seen.by}</bdi>, {seen.made.slice(0, 10)}
          {seen.note && `. ${seen.note}`}
        </Small>
      )}
      {error && <Notice>{wordsFor(error)}</Notice>}
      {changes && (
        <Changes aria-label="What changed">
          {changes.map((one) => (
            <li key={one}>{one}</li>
          ))}
          {changes.length === 0 && <li>They do the same.</li>}
        </Changes>
      )}
    </Block>
  );
}
