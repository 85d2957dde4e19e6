import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { well as wellQuery } from "../../api/running";
import { since } from "../../kit/since";

const Root = styled.section`
  margin-top: 14px;
  p {
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
    overflow-wrap: anywhere;
  }
  p[data-wrong] {
    color: ${(p) => p.theme.tokens.caution};
    font-weight: 600;
  }
`;

/** Is it well? In a few words, for admins. */
export function Well() {
  const { data } = useQuery(wellQuery);
  if (!data) return null;
  const parts = [
    ["Database", data.database],
    ["Workers", data.worker],
    ["Store", data.store],
  ] as const;
  const wrong = parts.filter(([, words]) => words);
  return (
    <Root aria-label="Is it well?">
      <h2>Is it well?</h2>
      {wrong.length === 0 && <p>Database, workers and store are well.</p>}
      {wrong.map(([name, words]) => (
        <p key={name} data-wrong>
          {name}: {words}
        </p>
      ))}
      <p data-wrong={data.backup ? undefined : true}>
        {data.backup ? `Last backup ${since(data.backup)}.` : "No backup was made yet."}
      </p>
      <p>Saucer {data.version}</p>
    </Root>
  );
}
