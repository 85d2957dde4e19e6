import { useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { formats as formatsQuery } from "../../api/bakes";
import { encodings as encodingsQuery } from "../../api/encodings";
import type { Wanted } from "../../api/shelf";
import type { Counts } from "../../api/types";
import { healthNames, heldNames, kindNames, passOnNames, stateNames } from "../words";
import { EVERYTHING } from "../../api/shelf";
import { isNarrowed, toggle, type Facet } from "./address";
import { Boards, OrderLinks, Views } from "./SideLists";
import { FacetList, Line, type Option } from "./FacetList";

const Root = styled.nav`
  background: ${(p) => p.theme.tokens.glaze};
  border-right: 1px solid ${(p) => p.theme.tokens.line};
  padding: 12px 8px 24px;
  overflow-y: auto;
  min-height: 0;
  ul {
    list-style: none;
    margin: 0 0 10px;
    padding: 0;
  }
`;
const Clear = styled.button`
  border: 0;
  background: none;
  padding: 3px 8px;
  margin: 0 0 8px;
  cursor: pointer;
  color: ${(p) => p.theme.tokens.accent};
`;
/** What no category can be called: those without one. */
const NONE = "/";
const spans: readonly (readonly [number, string])[] = [
  [7, "The last 7 days"],
  [30, "The last 30 days"],
  [365, "The last year"],
];

interface Props {
  /** How many each choice would show beside the others, as the server has counted them. */
  readonly counts: Counts | undefined;
  readonly wanted: Wanted;
  readonly onChange: (wanted: Wanted) => void;
  /** Of the wall as it is, so that it can be kept by name. */
  readonly address: string;
}

/** Narrows the Shelf. The counts of every list follow what is chosen in the others. */
export function Filters({ counts, wanted, onChange, address }: Props) {
  const { data: encodings = [] } = useQuery(encodingsQuery);
  const { data: formats = [] } = useQuery(formatsQuery);
  const of = (facet: string): Readonly<Record<string, number>> => counts?.facets[facet] ?? {};
  const press = (facet: Facet) => (id: string) => onChange(toggle(wanted, facet, id));
  /** In the order given, those that nothing has left out; without names by how many there are. */
  const options = (facet: string, names?: Readonly<Record<string, string>>): Option[] => {
    const count = of(facet);
    const ids = names ? Object.keys(names) : Object.keys(count).sort((a, b) => (count[b] ?? 0) - (count[a] ?? 0));
    return ids
      .filter((id) => id !== "" && (count[id] ?? 0) > 0)
      .map((id) => ({ id, name: names?.[id] ?? id, count: count[id] ?? 0 }));
  };
  const encodingNames = Object.fromEntries(encodings.map((one) => [one.id, one.name]));
  const formatNames = Object.fromEntries(formats.map((one) => [one.id, one.name]));
  const categories: Option[] = (counts?.categories ?? []).map((one) => ({
    id: one.path,
    name: one.name,
    count: one.count,
    depth: one.depth,
  }));
  if (categories.length > 0 && counts && counts.without > 0)
    categories.push({ id: NONE, name: "Without one", count: counts.without });
  const mine = of("favourites").mine ?? 0;
  return (
    <Root aria-label="Filters">
      <Views address={address} />
      <Boards />
      {isNarrowed(wanted) && (
        <Clear type="button" onClick={() => onChange({ ...EVERYTHING, search: wanted.search, order: wanted.order })}>
          Show everything
        </Clear>
      )}
      <FacetList
        title="What"
        startOpen
        options={options("kinds", kindNames)}
        chosen={wanted.kinds}
        onToggle={press("kinds")}
      />
      {(mine > 0 || wanted.favourite) && (
        <ul>
          <li>
            <Line
              type="button"
              $on={wanted.favourite}
              aria-pressed={wanted.favourite}
              onClick={() => onChange({ ...wanted, favourite: !wanted.favourite })}
            >
              <b>Starred</b> <span>{mine}</span>
            </Line>
          </li>
        </ul>
      )}
      <FacetList
        title="Category"
        startOpen
        first={40}
        options={categories}
        chosen={wanted.categories}
        onToggle={press("categories")}
      />
      <FacetList
        title="State"
        startOpen
        options={options("states", stateNames)}
        chosen={wanted.states}
        onToggle={press("states")}
      />
      <FacetList title="Tags" startOpen options={options("tags")} chosen={wanted.tags} onToggle={press("tags")} />
      <FacetList
        title="For"
        options={options("expects", encodingNames)}
        chosen={wanted.expects}
        onToggle={press("expects")}
      />
      <FacetList
        title="Files"
        options={options("formats", formatNames)}
        chosen={wanted.formats}
        onToggle={press("formats")}
      />
      <FacetList
        title="Health"
        options={options("health", healthNames)}
        chosen={wanted.health}
        onToggle={press("health")}
      />
      <FacetList title="Tested" options={options("holds", heldNames)} chosen={wanted.holds} onToggle={press("holds")} />
      <FacetList
        title="May be passed on"
        options={options("may_pass_on", passOnNames)}
        chosen={wanted.mayPassOn}
        onToggle={press("mayPassOn")}
      />
      <FacetList
        title="Used"
        options={options("used", { yes: "In a look or preset", no: "In none" })}
        chosen={wanted.used ? [wanted.used] : []}
        onToggle={(id) => onChange({ ...wanted, used: wanted.used === id ? "" : (id as "yes" | "no") })}
      />
      <FacetList
        title="Rights"
        options={[{ id: "soon", name: "To pass on for 30 days at most", count: of("ending").soon ?? 0 }].filter(
          (one) => one.count > 0,
        )}
        chosen={wanted.ending ? ["soon"] : []}
        onToggle={() => onChange({ ...wanted, ending: !wanted.ending })}
      />
      <FacetList
        title="By"
        options={options("owners", counts?.owners ?? {})}
        chosen={wanted.owners}
        onToggle={press("owners")}
      />
      <FacetList
        title="Since"
        options={spans.map(([days, name]) => ({ id: String(days), name, count: of("days")[String(days)] ?? 0 }))}
        chosen={wanted.days === null ? [] : [String(wanted.days)]}
        onToggle={(id) => onChange({ ...wanted, days: wanted.days === Number(id) ? null : Number(id) })}
      />
      <OrderLinks />
    </Root>
  );
}
