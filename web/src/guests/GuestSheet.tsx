import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { wordsFor } from "../api/client";
import { useMakeGuestLink } from "../api/guests";
import { pictures as picturesQuery } from "../api/pictures";
import type { GuestLinkGiven } from "../api/types";
import { Primary, Secondary } from "../kit/Button";
import { Check } from "../kit/Check";
import { dayIn } from "../kit/days";
import { Notice } from "../kit/Notice";
import { Sheet, SheetBody, SheetFoot } from "../kit/Sheet";
import { TextBox, TextInput } from "../kit/TextBox";
import { PictureGrid } from "../media/PictureGrid";
import { GuestLinks } from "./GuestLinks";

const MOST_PICTURES = 6;
const Small = styled.p`
  color: ${(p) => p.theme.tokens.soft};
`;
const Pair = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
`;
const Day = styled.label`
  display: grid;
  gap: 3px;
  align-content: start;
  small {
    font-size: ${(p) => p.theme.tokens.size.small};
    color: ${(p) => p.theme.tokens.soft};
  }
`;
const Given = styled.section`
  display: grid;
  gap: 10px;
  justify-items: start;
  code {
    font-family: ${(p) => p.theme.tokens.numbers};
    overflow-wrap: anywhere;
    user-select: all;
  }
`;

/** What is shown: a board or a project, by its number, or chosen entries. */
export type ToShow =
  { readonly board: number } | { readonly project: number } | { readonly entries: readonly number[] };

interface Props {
  readonly shows: ToShow;
  /** Of what is shown, in the title. */
  readonly name: string;
  readonly onClose: () => void;
}

/** A link by which people without an account see something, until a day; and those that were given before. */
export function GuestSheet({ shows, name, onClose }: Props) {
  const make = useMakeGuestLink();
  const { data: all = [] } = useQuery(picturesQuery);
  const pictures = all.filter((one) => !one.passing);
  const [title, setTitle] = useState("");
  const [chosen, setChosen] = useState<ReadonlySet<number> | null>(null);
  const [until, setUntil] = useState(dayIn(14));
  const [password, setPassword] = useState("");
  const [words, setWords] = useState("");
  const [stamp, setStamp] = useState(false);
  const [address, setAddress] = useState("");
  const isGallery = "entries" in shows;
  const on = chosen ?? new Set(pictures.slice(0, 1).map((one) => one.id));
  const send = () => {
    const given: GuestLinkGiven = { until, password, words, stamp };
    if (isGallery) given.gallery = { name: title, entries: [...shows.entries], pictures: [...on] };
    else Object.assign(given, shows);
    make.mutate(given, { onSuccess: (made) => setAddress(window.location.origin + made.address) });
  };
  return (
    <Sheet title={`Show ${name} to guests`} isOpen onClose={onClose} width="620px">
      <SheetBody>
        {address ? (
          <Given aria-label="The link">
            <p>Whoever has this link sees it until {until}. It is not shown again.</p>
            <code aria-label="The address">{address}</code>
            <Secondary onPress={() => void navigator.clipboard.writeText(address)}>Copy</Secondary>
          </Given>
        ) : (
          <>
            <Small>
              People without an account look, say yes, maybe or no, and write remarks, which come back{" "}
              {"project" in shows ? "to the shots" : "to the entries"}. They reach nothing else, and no file leaves.
              {"board" in shows && " Drafts without a version are left out."}
            </Small>
            {isGallery && (
              <>
                <TextBox label="What is it called?" value={title} onChange={setTitle} maxLength={120} autoFocus />
                <Small>
                  On up to six pictures. Guests see the latest version of each, also one that is kept later.
                </Small>
                <PictureGrid
                  pictures={pictures}
                  chosen={on}
                  most={MOST_PICTURES}
                  height={210}
                  onChange={(next) => setChosen(next)}
                />
              </>
            )}
            <Pair>
              <Day>
                <small>Open until, 92 days at most</small>
                <TextInput
                  type="date"
                  value={until}
                  min={dayIn(0)}
                  max={dayIn(92)}
                  onChange={(event) => setUntil(event.target.value)}
                />
              </Day>
              <TextBox
                label="Password (none where this is empty)"
                value={password}
                onChange={setPassword}
                maxLength={100}
              />
            </Pair>
            <TextBox label="A word to whoever comes" value={words} onChange={setWords} maxLength={500} />
            <Check isOn={stamp} onChange={setStamp}>
              Write the name of who looks across every picture
            </Check>
          </>
        )}
        {make.error && <Notice>{wordsFor(make.error)}</Notice>}
        {!isGallery && <GuestLinks of={shows} />}
      </SheetBody>
      <SheetFoot>
        <Secondary onPress={onClose}>{address ? "Done" : "Cancel"}</Secondary>
        {!address && (
          <Primary
            isDisabled={!until || (isGallery && (title.trim() === "" || on.size === 0))}
            isPending={make.isPending}
            onPress={send}
          >
            Make the link
          </Primary>
        )}
      </SheetFoot>
    </Sheet>
  );
}
