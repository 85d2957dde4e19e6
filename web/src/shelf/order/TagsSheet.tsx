import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../../api/client";
import { tags as tagsQuery, useRenameTag } from "../../api/shelf";
import { Primary, WordButton } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Sheet, SheetBody } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { withoutMarks } from "../../kit/PlainList";

const List = styled.ul`
  ${withoutMarks}
  max-height: 420px;
  overflow-y: auto;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 48px auto;
    gap: 12px;
    align-items: center;
    min-height: 36px;
    padding: 2px 8px 2px 0;
    border-bottom: 1px solid ${(p) => p.theme.tokens.line};
    overflow-wrap: anywhere;
  }
  li > span:nth-child(2) {
    font-family: ${(p) => p.theme.tokens.numbers};
    color: ${(p) => p.theme.tokens.soft};
    text-align: right;
  }
  form {
    grid-column: 1 / -1;
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    align-items: center;
    gap: 10px;
    padding: 4px 0 8px;
  }
  small {
    grid-column: 1 / -1;
    color: ${(p) => p.theme.tokens.soft};
  }
`;

/** Every tag with how many have it; another name, or the name of another to make the two one. */
export function TagsSheet({ onClose }: { onClose: () => void }) {
  const { data: tags = [] } = useQuery(tagsQuery);
  const rename = useRenameTag();
  const [open, setOpen] = useState<string | null>(null);
  const [name, setName] = useState("");
  const other = tags.find(
    (one) => one.name.toLowerCase() === name.trim().toLowerCase() && one.name.toLowerCase() !== open?.toLowerCase(),
  );
  return (
    <Sheet title="Tags" isOpen onClose={onClose}>
      <SheetBody>
        {tags.length === 0 && <p>Nothing has a tag yet.</p>}
        <List aria-label="Tags">
          {tags.map((tag) => (
            <li key={tag.name}>
              <span>{tag.name}</span>
              <span>{tag.count}</span>
              <WordButton
                aria-label={`Rename ${tag.name}`}
                onPress={() => {
                  rename.reset();
                  setOpen(open === tag.name ? null : tag.name);
                  setName(tag.name);
                }}
              >
                Rename
              </WordButton>
              {open === tag.name && (
                <form
                  onSubmit={(event) => {
                    event.preventDefault();
                    rename.mutate({ old: tag.name, new: name.trim() }, { onSuccess: () => setOpen(null) });
                  }}
                >
                  <TextBox label="New name" hideLabel value={name} onChange={setName} maxLength={40} autoFocus />
                  <Primary
                    type="submit"
                    isDisabled={name.trim() === "" || name === tag.name}
                    isPending={rename.isPending}
                  >
                    {other ? "Make them one" : "Rename it"}
                  </Primary>
                  {other && (
                    <small>
                      <bdi>{other.name}</bdi> is there already, on {other.count}: both become <bdi>{other.name}</bdi>.
                      This cannot be taken back.
                    </small>
                  )}
                  {rename.error && <Notice>{wordsFor(rename.error)}</Notice>}
                </form>
              )}
            </li>
          ))}
        </List>
      </SheetBody>
    </Sheet>
  );
}
