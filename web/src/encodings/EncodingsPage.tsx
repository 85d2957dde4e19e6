import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { createPortal } from "react-dom";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { encodings as encodingsQuery, useRemoveEncoding, type Encoding } from "../api/encodings";
import { useMay } from "../api/session";
import { useTopSlot } from "../frame/TopBar";
import { Primary, Secondary } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { PlainTable } from "../kit/PlainTable";
import { curveWords } from "./draft";
import { EncodingSheet } from "./EncodingSheet";

const Page = styled.main`
  overflow-y: auto;
  padding: 22px 24px 40px;
  min-width: 0;
  max-width: 1080px;
  h1,
  h2 {
    font-size: 17px;
    font-weight: 600;
    margin: 0 0 6px;
  }
  h2 {
    font-size: 14px;
    margin-top: 26px;
  }
  > p {
    color: ${(p) => p.theme.tokens.soft};
    margin: 0 0 14px;
    max-width: 640px;
  }
  th:last-child,
  td:last-child {
    padding-right: 0;
  }
`;

/** The encodings there are: the team's own, which are made and removed here, and those that ship. */
export function EncodingsPage() {
  const { data: all, error } = useQuery(encodingsQuery);
  const remove = useRemoveEncoding();
  const mayDesign = useMay("design");
  const slot = useTopSlot();
  const [making, setMaking] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const own = all?.filter((one) => one.own) ?? [];
  const shipped = all?.filter((one) => !one.own) ?? [];
  const trouble = error ?? remove.error;
  const light = (one: Encoding) => (one.referred === "scene" ? "scene" : "display");
  return (
    <Page>
      {slot && mayDesign && createPortal(<Primary onPress={() => setMaking(true)}>Make an encoding</Primary>, slot)}
      <h1>Encodings</h1>
      <p>
        What code values mean: the curve between them and light, and the primaries of red, green and blue. Looks and
        packs carry the definitions of your own with them.
      </p>
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
      {said && !trouble && <Notice tone="word">{said}</Notice>}
      <h2>Your own</h2>
      {all && own.length === 0 && (
        <p>
          There are none yet.{" "}
          {mayDesign ? "Make one for a camera or display that is not in the list below." : "A designer can make them."}
        </p>
      )}
      {own.length > 0 && (
        <PlainTable aria-label="Your own encodings">
          <thead>
            <tr>
              <th>Name</th>
              <th>Id</th>
              <th>Curve</th>
              <th>Light</th>
              <th>
                <span aria-hidden />
              </th>
            </tr>
          </thead>
          <tbody>
            {own.map((one) => (
              <tr key={one.id}>
                <td>{one.name}</td>
                <td>{one.id}</td>
                <td>{curveWords(one.own)}</td>
                <td>{light(one)}</td>
                <td>
                  {one.may_remove && (
                    <Secondary
                      aria-label={`Remove ${one.name}`}
                      onPress={() => {
                        setSaid(null);
                        remove.mutate(one.id, { onSuccess: () => setSaid(`${one.name} was removed.`) });
                      }}
                    >
                      Remove
                    </Secondary>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </PlainTable>
      )}
      <h2>Shipped</h2>
      <PlainTable aria-label="Shipped encodings">
        <thead>
          <tr>
            <th>Name</th>
            <th>Id</th>
            <th>Primaries</th>
            <th>Light</th>
            <th>Published in</th>
          </tr>
        </thead>
        <tbody>
          {shipped.map((one) => (
            <tr key={one.id}>
              <td>{one.name}</td>
              <td>{one.id}</td>
              <td>{one.primaries}</td>
              <td>{light(one)}</td>
              <td>{one.source}</td>
            </tr>
          ))}
        </tbody>
      </PlainTable>
      {making && (
        <EncodingSheet
          onClose={() => setMaking(false)}
          onMade={(name) => setSaid(`${name} can be chosen wherever encodings are.`)}
        />
      )}
    </Page>
  );
}
