import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { pictureSets, pictures as picturesQuery } from "../../api/pictures";
import { queue as queueQuery, usePublishMany, useSendBack } from "../../api/review";
import { useMay } from "../../api/session";
import type { Picture, Waiting } from "../../api/types";
import { Primary, Secondary } from "../../kit/Button";
import { Check } from "../../kit/Check";
import { Notice } from "../../kit/Notice";
import { SurroundChoice } from "../../kit/SurroundChoice";
import { TextBox } from "../../kit/TextBox";
import { withoutMarks } from "../../kit/PlainList";
import { useInPlace } from "../../kit/useInPlace";

const Page = styled.main`
  overflow-y: auto;
  padding: 18px 24px 40px;
  background: ${(p) => p.theme.surround.field};
  color: ${(p) => p.theme.surround.ink};
`;
const Head = styled.header`
  display: flex;
  align-items: center;
  gap: 16px;
  margin-bottom: 18px;
  h1 {
    font-size: ${(p) => p.theme.tokens.size.title};
    font-weight: 600;
  }
  > :last-child {
    margin-left: auto;
  }
`;
const List = styled.ul`
  ${withoutMarks}
  display: grid;
  gap: 22px;
`;
const Item = styled.li`
  display: grid;
  grid-template-columns: 262px minmax(0, 1fr);
  gap: 16px;
`;
const Words = styled.div`
  display: grid;
  gap: 8px;
  align-content: start;
  a {
    color: inherit;
    font-weight: 600;
  }
  p,
  small {
    color: ${(p) => p.theme.surround.soft};
    overflow-wrap: anywhere;
  }
`;
const Pairs = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 12px;
`;
const Pair = styled.figure`
  margin: 0;
  img {
    display: block;
    width: 100%;
    aspect-ratio: 16 / 9;
    object-fit: cover;
  }
  div {
    position: relative;
  }
  figcaption {
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.surround.soft};
    padding-top: 3px;
  }
`;
/** The set that a studio agrees on for reviews; without one of this name the test pictures. */
const AGREED = "Review";
const MOST = 5;

function Before({ waiting, picture }: { waiting: Waiting; picture: Picture }) {
  return (
    <Pair>
      <div>
        <img
          src={`/api/pictures/${String(picture.id)}/frame.png?${picture.state}-${picture.encoding}`}
          alt={`${picture.name}, before`}
          loading="lazy"
        />
        <img
          src={`/api/shelf/entries/${String(waiting.entry)}/preview.jpg?picture=${picture.id}&version=${waiting.number}&state=${picture.state}`}
          alt={`${picture.name} through ${waiting.name}`}
          loading="lazy"
        />
      </div>
      <figcaption>
        <bdi>{picture.name}</bdi>: before, after
      </figcaption>
    </Pair>
  );
}

interface OneProps {
  readonly waiting: Waiting;
  readonly pictures: readonly Picture[];
  readonly isOn: boolean;
  readonly onMark: (on: boolean) => void;
}

function One({ waiting, pictures, isOn, onMark }: OneProps) {
  const back = useSendBack();
  const [words, setWords] = useState("");
  const asking = useInPlace();
  const mayPublish = waiting.next.includes("published");
  return (
    <Item>
      <Words>
        <Link to={`/shelf/${waiting.kind}/${String(waiting.entry)}`}>{waiting.name}</Link>
        <small>
          Version {waiting.number}, by <bdi>{waiting.made_by}</bdi>, proposed {waiting.since.slice(0, 10)}
        </small>
        {waiting.words && <p>{waiting.words}</p>}
        {waiting.holds && (
          <Link to={`/shelf/look/${String(waiting.entry)}?page=stress`}>
            {waiting.holds === "holds" ? "Holds where it was tested" : "Breaks: see where"}
          </Link>
        )}
        {mayPublish && (
          <Check isOn={isOn} onChange={onMark}>
            Publish it
          </Check>
        )}
        {waiting.next.includes("sent back") && !asking.isOpen && (
          <div>
            <Secondary autoFocus={asking.autoFocus} onPress={asking.open}>
              Send it back…
            </Secondary>
          </div>
        )}
        {asking.isOpen && (
          <div onKeyDown={asking.onKeyDown} style={{ display: "grid", gap: 8 }}>
            <TextBox label="Why it is sent back" value={words} onChange={setWords} maxLength={2000} autoFocus />
            <div style={{ display: "flex", gap: 8 }}>
              <Primary
                isDisabled={words.trim() === ""}
                isPending={back.isPending}
                onPress={() => back.mutate({ kind: waiting.kind, entry: waiting.entry, number: waiting.number, words })}
              >
                Send it back
              </Primary>
              <Secondary onPress={asking.close}>Cancel</Secondary>
            </div>
          </div>
        )}
        {!mayPublish && waiting.next.includes("sent back") && (
          <small>You made it yourself: another curator publishes it.</small>
        )}
        {back.error && <Notice>{wordsFor(back.error)}</Notice>}
      </Words>
      <Pairs>
        {pictures.map((picture) => (
          <Before key={picture.id} waiting={waiting} picture={picture} />
        ))}
      </Pairs>
    </Item>
  );
}

/** What is proposed, before and after on the pictures agreed for reviews; several are published at once. */
export function QueuePage() {
  const { data: waiting, error } = useQuery(queueQuery);
  const { data: pictures = [] } = useQuery(picturesQuery);
  const { data: sets = [] } = useQuery(pictureSets);
  const publish = usePublishMany();
  const [marked, setMarked] = useState<ReadonlySet<number>>(new Set());
  const curates = useMay("curate");
  const agreed = sets.find((one) => one.name === AGREED);
  const shown = pictures.filter((one) => (agreed ? agreed.pictures.includes(one.id) : one.test)).slice(0, MOST);
  const chosen = (waiting ?? []).filter((one) => marked.has(one.id));
  const trouble = error ?? publish.error;
  return (
    <Page>
      <Head>
        <h1>Waiting for review</h1>
        {curates && (
          <Primary
            isDisabled={chosen.length === 0}
            isPending={publish.isPending}
            onPress={() =>
              publish.mutate(
                chosen.map((one) => one.id),
                { onSuccess: () => setMarked(new Set()) },
              )
            }
          >
            {chosen.length > 0 ? `Publish ${String(chosen.length)}` : "Publish those marked"}
          </Primary>
        )}
        <SurroundChoice />
      </Head>
      {trouble && <Notice>{wordsFor(trouble)}</Notice>}
      {waiting?.length === 0 && (
        <p>
          {curates ? "Nothing waits for you." : "Nothing of yours waits. Propose a version on its page of the Shelf."}
        </p>
      )}
      <List aria-label="Proposed">
        {waiting?.map((one) => (
          <One
            key={one.id}
            waiting={one}
            pictures={shown}
            isOn={marked.has(one.id)}
            onMark={(on) =>
              setMarked((last) => new Set(on ? [...last, one.id] : [...last].filter((id) => id !== one.id)))
            }
          />
        ))}
      </List>
    </Page>
  );
}
