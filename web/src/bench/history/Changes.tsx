import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { describeDifferences, fetchVersion } from "../../api/looks";
import { useBench, useBenchPart } from "../../look/useBench";

const List = styled.ul`
  margin: 4px 0 0;
  padding: 0 0 0 16px;
  color: ${(p) => p.theme.tokens.soft};
  font-size: ${(p) => p.theme.tokens.size.small};
  line-height: 1.45;
  overflow-wrap: anywhere;
`;
const Said = styled.div`
  padding: 0 0 12px;
  b {
    font-weight: 600;
  }
`;

type Props =
  | { readonly lines: readonly string[]; readonly before?: never; readonly title?: never }
  | { readonly title: string; readonly before: number | null; readonly lines?: never };

/** How looks differ, in words: as given, or the draft from a version. */
export function Changes({ lines, before, title }: Props) {
  const { id } = useBench();
  const look = useBenchPart((state) => state.whole);
  const { data } = useQuery({
    queryKey: ["differences", id, before, look],
    enabled: before !== undefined && before !== null,
    queryFn: async ({ signal }) => {
      return describeDifferences(await fetchVersion(id, before ?? 0, signal), look, signal);
    },
    gcTime: 0,
  });
  const shown = lines ?? data ?? [];
  if (title)
    return data && data.length > 0 ? (
      <Said>
        <b>{title}</b>
        <List>
          {data.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </List>
      </Said>
    ) : null;
  return shown.length > 0 ? (
    <List>
      {shown.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </List>
  ) : null;
}
