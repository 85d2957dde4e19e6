import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useId, useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { tags as tagsQuery, useChangeEntry } from "../../api/shelf";
import type { Described } from "../../api/types";
import { IconButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { withoutMarks } from "../../kit/PlainList";

const List = styled.ul`
  ${withoutMarks}
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  li {
    display: flex;
    align-items: center;
    padding: 0 2px 0 10px;
    min-height: 26px;
    border-radius: 13px;
    border: 1px solid ${(p) => p.theme.tokens.line};
  }
  li[data-read] {
    padding-right: 10px;
  }
  button {
    width: 20px;
    height: 20px;
  }
  svg {
    width: 12px;
    height: 12px;
  }
`;

/** The tags of an entry; typing proposes what others have used. */
export function Tags({ entry }: { entry: Described }) {
  const { data: known = [] } = useQuery({ ...tagsQuery, enabled: entry.may_change });
  const [typed, setTyped] = useState("");
  const change = useChangeEntry();
  const list = useId();
  const send = (what: { add_tags?: string[]; remove_tags?: string[] }) =>
    change.mutate({ kind: entry.kind, id: entry.id, ...what });
  return (
    <>
      {entry.tags.length > 0 && (
        <List aria-label="Tags">
          {entry.tags.map((tag) => (
            <li key={tag} {...(entry.may_change ? {} : { "data-read": true })}>
              {tag}
              {entry.may_change && (
                <IconButton aria-label={`Take ${tag} off`} onPress={() => send({ remove_tags: [tag] })}>
                  <X aria-hidden />
                </IconButton>
              )}
            </li>
          ))}
        </List>
      )}
      {entry.may_change && (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            if (typed.trim() === "") return;
            send({ add_tags: [typed.trim()] });
            setTyped("");
          }}
        >
          <TextBox
            label="Add a tag"
            value={typed}
            onChange={setTyped}
            maxLength={40}
            list={list}
            placeholder="Type it, then Enter"
          />
          <datalist id={list}>
            {known.map((one) => (
              <option key={one.name} value={one.name} />
            ))}
          </datalist>
        </form>
      )}
      {change.error && <Notice>{wordsFor(change.error)}</Notice>}
    </>
  );
}
