import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { wordsFor } from "../../api/client";
import { reviews as reviewsQuery, useMove } from "../../api/review";
import { Primary, Secondary, WordButton } from "../../kit/Button";
import { Flyout } from "../../kit/Flyout";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";

interface Props {
  readonly look: number;
  /** As words in a line, not as a button. */
  readonly quiet?: boolean;
}

/** Gives the latest version to those who review, with a word; there only while it waits for nobody yet. */
export function Propose({ look, quiet = false }: Props) {
  const { data } = useQuery(reviewsQuery("look", look));
  const move = useMove("look", look);
  const [words, setWords] = useState("");
  const latest = data?.versions[0];
  if (!latest || latest.state === "proposed" || !latest.next.includes("proposed")) return null;
  const name = `Propose version ${String(latest.number)}`;
  return (
    <Flyout
      label={name}
      placement="bottom end"
      button={quiet ? <WordButton>Propose it…</WordButton> : <Secondary aria-label={name}>Propose</Secondary>}
    >
      {(close) => (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            move.mutate(
              { number: latest.number, to: "proposed", words },
              {
                onSuccess: () => {
                  setWords("");
                  close();
                },
              },
            );
          }}
        >
          <TextBox
            label={`${name}, with a word if you like`}
            value={words}
            onChange={setWords}
            maxLength={2000}
            placeholder="What it is for"
            autoFocus
          />
          <p style={{ marginTop: 10 }}>
            <Primary type="submit" isPending={move.isPending}>
              Propose it
            </Primary>
          </p>
          {move.error && <Notice>{wordsFor(move.error)}</Notice>}
        </form>
      )}
    </Flyout>
  );
}
