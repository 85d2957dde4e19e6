import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { firstEntries, markOf } from "../../api/shelf";
import type { Entry } from "../../api/types";
import { Fingerprint } from "../../kit/Disc";
import { TextBox } from "../../kit/TextBox";

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 14px;
  min-width: 0;
  flex: 1 0 100%;
  order: -1;
  > :first-child {
    width: 190px;
    flex: none;
  }
`;
const Discs = styled.div`
  display: flex;
  gap: 8px;
  flex: 1;
  min-width: 0;
  overflow-x: auto;
  padding: 4px;
  button {
    border: 0;
    padding: 0;
    background: none;
    border-radius: 50%;
    cursor: pointer;
    flex: none;
  }
`;

interface Props {
  readonly onTry: (entry: Entry | null) => void;
  readonly onPut: (entry: Entry) => void;
}

/** Looks to be tried on what is chosen: pointing tries, a press leaves it there, leaving leaves no trace. */
export function LookTray({ onTry, onPut }: Props) {
  const [search, setSearch] = useState("");
  const { data } = useQuery(firstEntries({ search, kinds: ["look", "lut", "preset"] }, 24));
  const entries = (data?.entries ?? []).filter((one) => one.kind !== "look" || one.detail !== "Look, draft");
  return (
    <Row>
      <TextBox
        label="Find a look"
        hideLabel
        type="search"
        value={search}
        onChange={setSearch}
        placeholder="A name, or what it does"
      />
      <Discs role="group" aria-label="Looks to try" onPointerLeave={() => onTry(null)}>
        {entries.map((entry) => (
          <button
            key={entry.id}
            type="button"
            aria-label={entry.name}
            title={entry.name}
            onPointerEnter={() => onTry(entry)}
            onFocus={() => onTry(entry)}
            onBlur={() => onTry(null)}
            onKeyDown={(event) => {
              if (event.key === "Escape") onTry(null);
            }}
            onClick={() => onPut(entry)}
          >
            <Fingerprint $size={40} src={markOf(entry, 80)} alt="" />
          </button>
        ))}
      </Discs>
    </Row>
  );
}
