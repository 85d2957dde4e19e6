import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Disclosure, DisclosurePanel, Heading, Button } from "react-aria-components";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { reference } from "../../api/reference";
import type { DescribedPath } from "../../api/types";
import { Notice } from "../../kit/Notice";
import { Picker } from "../../kit/Picker";
import { PlainTable } from "../../kit/PlainTable";
import { TextBox } from "../../kit/TextBox";
import { Part, Room, RoomHead, Rooms } from "../Rooms";
import { fits, takenBy } from "./finding";

const Asked = styled.div`
  display: grid;
  grid-template-columns: minmax(180px, 320px) 220px minmax(0, 1fr);
  gap: 10px;
  align-items: end;
  margin-bottom: 14px;
  > span {
    text-align: right;
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Group = styled.section`
  margin-bottom: 18px;
  h2 {
    font-size: 14px;
    font-weight: 600;
    padding: 6px 0;
    border-bottom: 1px solid ${(p) => p.theme.tokens.line};
  }
`;
const Line = styled(Button)`
  display: grid;
  grid-template-columns: 64px minmax(260px, 1.1fr) minmax(0, 1fr) 90px;
  gap: 10px;
  width: 100%;
  align-items: baseline;
  text-align: left;
  border: 0;
  border-bottom: 1px solid ${(p) => p.theme.tokens.hush};
  background: none;
  color: inherit;
  padding: 6px 4px;
  cursor: pointer;
  > b,
  > code {
    font-family: ${(p) => p.theme.tokens.numbers};
    font-size: ${(p) => p.theme.tokens.size.small};
    font-weight: 500;
    overflow-wrap: anywhere;
  }
  > small {
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
  &[data-hovered] {
    background: ${(p) => p.theme.tokens.hush};
  }
`;
const Whole = styled(DisclosurePanel)`
  padding: 0 4px 0 78px;
  &[aria-hidden="false"] {
    padding-block: 8px 16px;
    border-bottom: 1px solid ${(p) => p.theme.tokens.hush};
  }
  h4 {
    font-size: ${(p) => p.theme.tokens.size.small};
    font-weight: 500;
    color: ${(p) => p.theme.tokens.soft};
    margin: 10px 0 3px;
  }
  table {
    width: 100%;
    max-width: 640px;
  }
`;
const Code = styled.pre`
  margin: 0;
  padding: 8px 10px;
  max-height: 260px;
  overflow: auto;
  border-radius: ${(p) => p.theme.tokens.radius.field};
  background: ${(p) => p.theme.tokens.hush};
  font-family: ${(p) => p.theme.tokens.numbers};
  font-size: ${(p) => p.theme.tokens.size.small};
  white-space: pre-wrap;
  overflow-wrap: anywhere;
`;
const SCOPES = [
  { id: "", name: "Whatever it takes" },
  { id: "read", name: "Read" },
  { id: "bring in", name: "Bring in" },
  { id: "design", name: "Design" },
  { id: "publish", name: "Publish" },
];

/** Every call of the API: found by words, and by what a token has to reach for it. */
export function ApiPage() {
  const { data, error } = useQuery(reference);
  const [words, setWords] = useState("");
  const [scope, setScope] = useState("");
  const found = (data ?? []).filter((one) => fits(one, words, scope));
  const groups = [...new Set(found.map((one) => one.group))];
  return (
    <Rooms>
      <Room>
        <RoomHead>
          <h1>For programs</h1>
        </RoomHead>
        <Part>
          <p>
            A program comes by a token of yours, or of a service: <code>Authorization: Bearer saucer_…</code> with every
            call. Bodies and answers are JSON; paths begin with <code>/api/v1</code> and stay as they are as long as
            they do.
          </p>
          <p>
            What goes wrong comes as <code>application/problem+json</code> (RFC 9457): <code>status</code>,{" "}
            <code>title</code>, <code>detail</code> in words, and <code>request</code>, the number by which it is found
            in the server’s log. 401 is a token that is not believed, 403 one that does not reach so far, 404 what is
            not there for you, 409 what somebody has changed meanwhile, 422 what cannot be done as it was sent, 429 too
            many calls within a minute.
          </p>
        </Part>
        {error && <Notice>{wordsFor(error)}</Notice>}
        {data && (
          <>
            <Asked>
              <TextBox label="Words or part of a path" value={words} onChange={setWords} maxLength={100} />
              <Picker label="What the token reaches" value={scope} options={SCOPES} onChange={setScope} />
              <span aria-live="polite">
                {found.length === data.length
                  ? `${String(data.length)} calls`
                  : `${String(found.length)} of ${String(data.length)}`}
              </span>
            </Asked>
            {found.length === 0 && <p>No call has these words.</p>}
            {groups.map((group) => (
              <Group key={group} aria-label={group}>
                <h2>{group}</h2>
                {found
                  .filter((one) => one.group === group)
                  .map((one) => (
                    <Call key={`${one.method} ${one.path}`} call={one} />
                  ))}
              </Group>
            ))}
          </>
        )}
      </Room>
    </Rooms>
  );
}

function Call({ call }: { call: DescribedPath }) {
  return (
    <Disclosure>
      {({ isExpanded }) => (
        <>
          <Heading level={3} style={{ margin: 0 }}>
            <Line slot="trigger">
              <b>{call.method}</b>
              <code>{call.path}</code>
              <span>{call.words.split("\n")[0]}</span>
              <small>{takenBy(call)}</small>
            </Line>
          </Heading>
          <Whole>{isExpanded && <Told call={call} />}</Whole>
        </>
      )}
    </Disclosure>
  );
}

function Told({ call }: { call: DescribedPath }) {
  const more = call.words.split("\n").slice(1).join("\n").trim();
  return (
    <>
      {more && <p>{more}</p>}
      {call.fields.length > 0 && (
        <PlainTable>
          <thead>
            <tr>
              <th>Name</th>
              <th>Where</th>
              <th>Type</th>
              <th>What it is</th>
            </tr>
          </thead>
          <tbody>
            {call.fields.map((field) => (
              <tr key={field.name}>
                <td>
                  <code>{field.name}</code>
                </td>
                <td>{field.is_required ? field.where : `${field.where}, may be left out`}</td>
                <td>{field.type}</td>
                <td>{field.words}</td>
              </tr>
            ))}
          </tbody>
        </PlainTable>
      )}
      <h4>As a command, with STUDIO={window.location.origin}</h4>
      <Code>{call.example}</Code>
      {call.answer && (
        <>
          <h4>What comes back</h4>
          <Code>{call.answer}</Code>
        </>
      )}
    </>
  );
}
