import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { wordsFor } from "../../api/client";
import { bin as binQuery } from "../../api/order";
import { useRestoreEntry } from "../../api/shelf";
import { useMay } from "../../api/session";
import { Secondary } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Head, Page, Rows } from "./page";

const DAY = 24 * 60 * 60 * 1000;
const nouns = { look: "Look", lut: "LUT", preset: "Preset" } as const;

function daysLeft(until: string): string {
  const days = Math.ceil((Date.parse(until) - Date.now()) / DAY);
  if (days <= 0) return "kept only while something uses it";
  return days === 1 ? "one more day" : `${String(days)} more days`;
}

/** What was deleted in the last 30 days and may be brought back. */
export function BinPage() {
  const { data: binned, error } = useQuery(binQuery);
  const restore = useRestoreEntry();
  const curates = useMay("curate");
  const [back, setBack] = useState<{ kind: string; id: number; name: string } | null>(null);
  const trouble = error ?? restore.error;
  return (
    <Page>
      <Head>
        <h1>Bin</h1>
        <Link to="/shelf">To the Shelf</Link>
      </Head>
      <p>
        {curates ? "What anybody deleted" : "What you deleted"} stays here for 30 days, and longer where a look still
        uses it.
      </p>
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
      {back && (
        <Notice tone="word">
          <Link to={`/shelf/${back.kind}/${String(back.id)}`}>{back.name}</Link> is on the Shelf again.
        </Notice>
      )}
      {binned?.length === 0 && <p>Nothing is in it.</p>}
      {binned && binned.length > 0 && (
        <Rows>
          <thead>
            <tr>
              <th>What</th>
              <th>Category</th>
              <th>Deleted</th>
              <th>Kept for</th>
              <th aria-label="Actions" />
            </tr>
          </thead>
          <tbody>
            {binned.map((one) => (
              <tr key={one.id}>
                <td>
                  <b>{one.name}</b>
                  <small>
                    {nouns[one.kind]}
                    {one.owner && `, ${one.owner}`}
                    {one.into && `, made one with ${one.into}`}
                  </small>
                </td>
                <td>{one.category}</td>
                <td>
                  {one.deleted.slice(0, 10)}
                  {one.by && (
                    <small>
                      by <bdi>{one.by}</bdi>
                    </small>
                  )}
                </td>
                <td>{daysLeft(one.until)}</td>
                <td>
                  <Secondary
                    aria-label={`Bring back ${one.name}`}
                    onPress={() => restore.mutate({ kind: one.kind, id: one.id }, { onSuccess: () => setBack(one) })}
                  >
                    Bring back
                  </Secondary>
                </td>
              </tr>
            ))}
          </tbody>
        </Rows>
      )}
    </Page>
  );
}
